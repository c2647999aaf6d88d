<script setup lang="ts">
import { IconX } from '@tabler/icons-vue'
import { onMounted, ref, useTemplateRef } from 'vue'
import { keyTyped, off, pressed, type Key } from './calculator'
import { t, te } from '@/words'

/** A calculator beside the item: the four functions, with percent and square root where they are allowed. It works by keys while it has the focus. */
const props = defineProps<{ kind: 'basic' | 'percent' }>()
const emit = defineEmits<{ close: [] }>()
const now = ref(off)
const pad = useTemplateRef('pad')
onMounted(() => pad.value?.focus())

const rows: Key[][] = [
  ...(props.kind === 'percent' ? [['√', '%'] satisfies Key[]] : []),
  ['C', '±', '⌫', '÷'],
  ['7', '8', '9', '×'],
  ['4', '5', '6', '−'],
  ['1', '2', '3', '+'],
  ['0', '.', '='],
]
const offered = new Set(rows.flat())
/** Signs are said in words, digits are themselves. */
const words = (key: Key) => (te(`calculator.${key}`) ? t(`calculator.${key}`) : undefined)
function press(key: Key) {
  now.value = pressed(now.value, key)
}
function onKey(e: KeyboardEvent) {
  if (e.key === 'Escape') return emit('close')
  // Enter on a button presses that button.
  if (e.ctrlKey || e.metaKey || e.altKey || (e.key === 'Enter' && e.target instanceof HTMLButtonElement)) return
  const key = keyTyped(e.key)
  if (!key || !offered.has(key)) return
  press(key)
  e.preventDefault()
}
</script>

<template>
  <aside ref="pad" class="pad" :aria-label="t('work.calculator')" tabindex="-1" @keydown="onKey">
    <header>
      <span>{{ t('work.calculator') }}</span>
      <button type="button" class="close" :aria-label="t('calculator.close')" @click="emit('close')">
        <IconX :size="18" aria-hidden="true" />
      </button>
    </header>
    <output aria-live="polite">{{ now.shows.replace('-', '−') }}</output>
    <div class="keys">
      <template v-for="row in rows" :key="row[0]">
        <button
          v-for="k in row"
          :key="k"
          type="button"
          :class="{ sign: !/\d|\./.test(k), wide: row.length === 2 || k === '=' }"
          :aria-label="words(k)"
          @click="press(k)"
        >
          {{ k }}
        </button>
      </template>
    </div>
  </aside>
</template>

<style scoped>
.pad {
  position: fixed;
  right: 24px;
  bottom: 132px;
  z-index: 5;
  width: 248px;
  padding: 8px 12px 12px;
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
output {
  display: block;
  min-height: 44px;
  padding: 6px 10px;
  margin-bottom: 8px;
  text-align: right;
  font: 500 22px var(--reading);
  font-variant-numeric: tabular-nums;
  border: 1px solid var(--rule-strong);
  background: var(--board);
  overflow-wrap: anywhere;
}
.keys {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
}
.keys button {
  min-height: 46px;
  font: 600 18px var(--reading);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  cursor: pointer;
}
.keys .wide {
  grid-column: span 2;
}
.keys .sign {
  background: var(--tint);
}
@media (max-width: 600px) {
  .pad {
    right: 8px;
    bottom: 8px;
    z-index: 10;
  }
}
</style>
