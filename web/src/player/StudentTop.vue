<script setup lang="ts">
import { IconTypography } from '@tabler/icons-vue'
import { useLetters } from './letters'
import { t } from '@/words'
import LanguageChoice from './LanguageChoice.vue'

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
        :aria-label="t('letters')"
        :title="t('letters')"
        :aria-pressed="letters === 'distinct'"
        @click="change"
      >
        <IconTypography :size="20" stroke="1.6" aria-hidden="true" />
      </button>
      <LanguageChoice class="language" />
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
.language {
  min-height: 44px;
  padding: 0 28px 0 8px;
  font: inherit;
  font-size: 16px;
  color: inherit;
  background-color: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
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
    gap: 6px 10px;
    flex-wrap: wrap;
  }
  /* Less to press in the head of a small screen: what goes before stays in one line. */
  .letters,
  .language {
    min-height: 36px;
  }
}
</style>
