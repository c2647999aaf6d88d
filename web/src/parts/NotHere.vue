<script setup lang="ts">
import Empty from './Empty.vue'
</script>

<template>
  <div style="padding: 16px 22px"><Empty text="Not found, or you don’t have access." /></div>
</template>
