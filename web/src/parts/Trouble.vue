<script setup lang="ts">
/** What went wrong, said where it matters; nothing when nothing did. */
defineProps<{ error: Error | null | undefined }>()
</script>

<template>
  <div v-if="error" class="trouble" role="alert">{{ error.message }} <slot /></div>
</template>

<style scoped>
.trouble {
  border-left: 3px solid var(--brick);
  background: var(--brick-tint);
  color: var(--brick);
  padding: 8px 12px;
  margin: 8px 0;
}
</style>
