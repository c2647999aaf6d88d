<script setup lang="ts">
/** An empty place: says what belongs there and offers the first step. */
defineProps<{ text: string }>()
</script>

<template>
  <div class="empty">
    <p>{{ text }}</p>
    <slot />
  </div>
</template>

<style scoped>
.empty {
  border: 1px dashed var(--rule-strong);
  padding: 22px;
  margin: 12px 0;
  color: var(--ink-soft);
  max-width: 640px;
}
</style>
