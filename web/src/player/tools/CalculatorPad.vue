<script setup lang="ts">
import { computed, ref } from 'vue'
import { keyTyped, off, pressed, type Key } from './calculator'
import Pane from './Pane.vue'
import { functions, worked, writes } from './scientific'
import { t, te } from '@/words'

/**
 * A calculator beside the work. The four functions work from left to right, as the ones on desks do; the scientific one
 * reads a whole line. What was worked out stands in a list that a screen reader follows.
 */
const props = defineProps<{ kind: 'basic' | 'percent' | 'scientific' }>()
const emit = defineEmits<{ close: [] }>()
const scientific = computed(() => props.kind === 'scientific')

const now = ref(off)
const rows: Key[][] = [
  ...(props.kind === 'percent' ? [['√', '%'] satisfies Key[]] : []),
  ['C', '±', '⌫', '÷'],
  ['7', '8', '9', '×'],
  ['4', '5', '6', '−'],
  ['1', '2', '3', '+'],
  ['0', '.', '='],
]
const lines = [
  ['√', 'sin', 'cos', 'tan', 'π'],
  ['log', 'ln', '^', '(', ')'],
  ['7', '8', '9', '÷', '⌫'],
  ['4', '5', '6', '×', 'C'],
  ['1', '2', '3', '−', '%'],
  ['0', '.', '+', '='],
]
const line = ref('')
const done = ref<string[]>([])
const fresh = ref(false) // the next digit begins a new line
const shows = computed(() => (scientific.value ? line.value || '0' : now.value.shows.replace('-', '−')))
const history = computed(() => (scientific.value ? done.value : (now.value.done ?? [])))
const offered = computed(() => new Set(scientific.value ? lines.flat() : rows.flat()))

/** Signs are said in words, digits are themselves. */
const words = (key: string) => (te(`calculator.${key}`, 'en') ? t(`calculator.${key}`) : undefined)
const mostLine = 60

function press(key: string) {
  if (!scientific.value) {
    now.value = pressed(now.value, key as Key)
    return
  }
  if (key === 'C') line.value = ''
  else if (key === '⌫') line.value = line.value.replace(/(?:sin|cos|tan|log|ln|√)\($|.$/u, '')
  else if (key === '=') {
    if (!line.value.trim()) return
    const value = worked(line.value)
    done.value = [...done.value, `${line.value} = ${value}`].slice(-20)
    line.value = /^-?[\d.]+$/.test(value) ? value.replace('-', '−') : ''
    fresh.value = true
    return
  } else {
    const begins = fresh.value && (/[\d.π√(]/.test(key) || (functions as readonly string[]).includes(key))
    const added = (functions as readonly string[]).includes(key) ? `${key}(` : key
    if ((begins ? '' : line.value).length + added.length > mostLine) return
    line.value = (begins ? '' : line.value) + added
  }
  fresh.value = false
}
function onKey(e: KeyboardEvent) {
  // Enter on a button presses that button; keys with Alt open tools.
  if (e.ctrlKey || e.metaKey || e.altKey || (e.key === 'Enter' && e.target instanceof HTMLButtonElement)) return
  const key = scientific.value ? ({ Enter: '=', '=': '=', Backspace: '⌫', Delete: 'C' }[e.key] ?? writes(e.key)) : keyTyped(e.key)
  if (!key || !offered.value.has(key)) return
  press(key)
  e.preventDefault()
}
</script>

<template>
  <Pane :title="t('work.calculator')" @close="emit('close')" @keydown="onKey">
    <output aria-live="polite">{{ shows }}</output>
    <div class="keys" :class="{ five: scientific }">
      <template v-for="row in scientific ? lines : rows" :key="row.join()">
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
    <div class="history" role="log" :aria-label="t('calculator.history')" tabindex="0">
      <p v-for="(one, i) in history" :key="i">{{ one.replace(/(^|[ (])-/g, '$1−') }}</p>
    </div>
  </Pane>
</template>

<style scoped>
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
  min-height: 44px;
  font: 600 17px var(--reading);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  cursor: pointer;
}
.keys .wide {
  grid-column: span 2;
}
.five {
  grid-template-columns: repeat(5, 1fr);
}
.keys .sign {
  background: var(--tint);
}
.history {
  margin-top: 8px;
  max-height: 92px;
  overflow: auto;
  font-size: 15px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.history p {
  margin: 0;
}
</style>
