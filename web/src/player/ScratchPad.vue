<script setup lang="ts">
import { IconX } from '@tabler/icons-vue'
import { onMounted, ref, useTemplateRef, watch } from 'vue'
import { t } from '@/words'

/** A page for notes. It is kept on this device while the tab is open, and never sent. */
const props = defineProps<{ name: string }>()
const emit = defineEmits<{ close: [] }>()
const key = `pine-ledger-notes-${props.name}`
const read = () => {
  try {
    return sessionStorage.getItem(key) ?? ''
  } catch {
    return ''
  }
}
const notes = ref(read())
watch(notes, (now) => {
  try {
    sessionStorage.setItem(key, now)
  } catch {
    // The browser's store is full or shut: they stay on this page.
  }
})
const field = useTemplateRef('field')
onMounted(() => field.value?.focus())
</script>

<template>
  <aside class="notes" :aria-label="t('tools.pad')" @keydown.esc="emit('close')">
    <header>
      <span>{{ t('tools.pad') }}</span>
      <button type="button" class="close" :aria-label="t('tools.closePad')" @click="emit('close')">
        <IconX :size="18" aria-hidden="true" />
      </button>
    </header>
    <textarea ref="field" v-model="notes" rows="10" maxlength="5000" :aria-label="t('tools.notes')" />
    <p>{{ t('tools.padKept') }}</p>
  </aside>
</template>

<style scoped>
.notes {
  position: fixed;
  left: 24px;
  bottom: 132px;
  z-index: 5;
  width: min(320px, 92vw);
  padding: 8px 12px;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  box-shadow: 0 4px 14px rgb(0 0 0 / 12%);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: 15px;
}
.close {
  width: 44px;
  height: 44px;
  margin-right: -10px;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
}
textarea {
  width: 100%;
  font: 16px/1.5 var(--reading);
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  padding: 8px;
}
p {
  margin: 4px 0 0;
  font-size: 14px;
  color: var(--ink-soft);
}
</style>
