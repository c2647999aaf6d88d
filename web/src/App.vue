<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { RouterView, useRoute } from 'vue-router'

// The student's side does not load the frame.
const Frame = defineAsyncComponent(() => import('./parts/Frame.vue'))
const route = useRoute()
const bare = computed(() => route.meta.bare || !route.matched.length)
</script>

<template>
  <RouterView v-if="bare" />
  <Frame v-else><RouterView /></Frame>
</template>
