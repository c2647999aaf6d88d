<script setup lang="ts">
defineProps<{ title: string; note?: string }>()
</script>

<template>
  <header>
    <strong>{{ title }}</strong>
    <span class="note">{{ note }}</span>
    <span class="right"><slot /></span>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 56px;
  padding: 4px 28px;
  border-bottom: 1px solid var(--rule);
  background: var(--paper);
}
.note {
  color: var(--ink-soft);
}
.right {
  margin-left: auto;
  display: flex;
  align-items: center;
  gap: 20px;
}
@media (max-width: 600px) {
  header {
    padding: 4px 14px;
    gap: 10px;
    line-height: 1.25;
  }
  .right {
    gap: 10px;
  }
}
</style>
