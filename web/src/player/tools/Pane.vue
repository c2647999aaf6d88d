<script setup lang="ts">
import { IconX } from '@tabler/icons-vue'
import { onMounted, useTemplateRef } from 'vue'
import { t } from '@/words'

/** A tool that stands beside the work. It takes the focus when it opens; Escape closes it. */
defineProps<{ title: string }>()
const emit = defineEmits<{ close: [] }>()
const pane = useTemplateRef('pane')
onMounted(() => {
  const first = pane.value?.querySelector<HTMLElement>('[autofocus]')
  ;(first ?? pane.value)?.focus({ preventScroll: true })
})
</script>

<template>
  <aside ref="pane" class="pane" tabindex="-1" :aria-label="title" @keydown.esc.stop="emit('close')">
    <header>
      <h2>{{ title }}</h2>
      <button type="button" class="close" :aria-label="t('tools.close', { tool: title })" @click="emit('close')">
        <IconX :size="18" aria-hidden="true" />
      </button>
    </header>
    <slot />
  </aside>
</template>

<style scoped>
.pane {
  padding: 4px 14px 14px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule-strong);
}
.pane:focus {
  outline: none;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
h2 {
  font: 650 16px var(--reading);
  margin: 0;
}
.close {
  width: 44px;
  height: 44px;
  margin-right: -12px;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
}
</style>
