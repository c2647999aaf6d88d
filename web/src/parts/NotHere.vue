<script setup lang="ts">
import Empty from './Empty.vue'
</script>

<template>
  <div style="padding: 16px 22px"><Empty text="There is nothing at this address, or it is not yours to see." /></div>
</template>
