<script setup lang="ts">
/** A caution beside what it is about. */
</script>

<template>
  <div class="note"><slot /></div>
</template>

<style scoped>
.note {
  border-left: 3px solid var(--resin);
  background: var(--resin-tint);
  padding: 10px 12px;
  margin: 12px 0;
}
</style>
