<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import ByBand from './ByBand.vue'
import Matrix from './Matrix.vue'

const route = useRoute()
const id = computed(() => Number(route.params.id))
const view = computed(() => (route.params.view === 'matrix' ? Matrix : ByBand))
</script>

<template>
  <component :is="view" :id="id" :key="id" />
</template>
