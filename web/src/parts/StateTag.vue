<script setup lang="ts">
/** A state in words; never color alone. */
defineProps<{ state: string; tone?: 'quiet' | 'go' | 'caution' }>()
</script>

<template>
  <span class="tag" :class="tone ?? 'quiet'">{{ state }}</span>
</template>

<style scoped>
.tag {
  display: inline-block;
  border: 1px solid var(--rule-strong);
  border-radius: 3px;
  padding: 0 7px;
  font-size: 12px;
  line-height: 19px;
  white-space: nowrap;
}
.go {
  border-color: var(--pine);
  color: var(--pine);
  font-weight: 650;
}
.caution {
  border-color: var(--resin);
  color: var(--resin);
  font-weight: 650;
}
</style>
