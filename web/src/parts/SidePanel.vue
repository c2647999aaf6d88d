<script setup lang="ts">
import Button from 'primevue/button'
import { onBeforeUnmount, onMounted, useTemplateRef } from 'vue'
import { useEventListener } from '@vueuse/core'
import { IconX } from '@tabler/icons-vue'
import { focusHead } from './head'

/**
 * Slides over the right third and keeps the list in view and in reach: focus moves
 * into it, is not held there, and goes back to where it came from.
 */
defineProps<{ title: string; width?: string }>()
const emit = defineEmits<{ close: [] }>()

const panel = useTemplateRef('panel')
const from = document.activeElement
onMounted(() => panel.value?.focus())
onBeforeUnmount(() => {
  if (from instanceof HTMLElement && from !== document.body && from.isConnected) return from.focus()
  focusHead() // what opened it is gone
})
// An open list or menu over the panel takes Escape for itself.
useEventListener(document, 'keydown', (e) => {
  if (e.key === 'Escape' && !e.defaultPrevented) emit('close')
})
</script>

<template>
  <Teleport to="body">
    <aside
      ref="panel"
      class="side-panel"
      tabindex="-1"
      :aria-label="title"
      :style="{ width: `min(100vw, ${width ?? 'max(430px, 34vw)'})` }"
    >
      <header>
        <h2>{{ title }}</h2>
        <Button severity="secondary" text rounded aria-label="Close" @click="emit('close')"><IconX :size="18" /></Button>
      </header>
      <div class="content"><slot /></div>
      <footer v-if="$slots.footer"><slot name="footer" /></footer>
    </aside>
  </Teleport>
</template>

<style scoped>
.side-panel {
  position: fixed;
  z-index: 900; /* below lists that open over it */
  inset: 0 0 0 auto;
  max-width: 100vw;
  display: flex;
  flex-direction: column;
  background: var(--paper);
  border-left: 1px solid var(--rule-strong);
  box-shadow: -6px 0 18px rgb(0 0 0 / 8%);
  outline: none;
  animation: come 140ms ease-out;
}
@keyframes come {
  from {
    transform: translateX(24px);
    opacity: 0;
  }
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  padding: 14px 18px 8px;
}
h2 {
  font: 650 1.2rem var(--serif);
  margin: 0;
}
.content {
  flex: 1;
  overflow: auto;
  padding: 4px 18px 18px;
}
footer {
  padding: 10px 18px;
  border-top: 1px solid var(--rule);
}
@media (max-height: 480px) {
  .side-panel {
    overflow: auto;
  }
  .content {
    flex: none;
    overflow: visible;
  }
}
</style>
