<script setup lang="ts">
import { IconTypography } from '@tabler/icons-vue'
import { useLetters } from './letters'

defineProps<{ title: string; note?: string }>()
const { letters, change } = useLetters()
</script>

<template>
  <header>
    <strong>{{ title }}</strong>
    <span class="note">{{ note }}</span>
    <span class="right">
      <button
        type="button"
        class="quiet letters"
        aria-label="Letters that are easier to tell apart"
        title="Letters that are easier to tell apart"
        :aria-pressed="letters === 'distinct'"
        @click="change"
      >
        <IconTypography :size="20" stroke="1.6" aria-hidden="true" />
      </button>
      <slot />
    </span>
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
header .letters {
  padding: 0 12px;
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
    padding: 6px 14px;
    flex-wrap: wrap;
    gap: 4px 10px;
    line-height: 1.25;
  }
  .right {
    gap: 10px;
  }
}
</style>
