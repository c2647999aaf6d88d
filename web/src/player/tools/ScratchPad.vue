<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { Asides } from '../useAsides'
import Pane from './Pane.vue'
import { t } from '@/words'

/** A page to write and draw on. It is kept and never scored; staff may look at it. */
const props = defineProps<{ asides: Asides }>()
const emit = defineEmits<{ close: [] }>()
const notes = computed({
  get: () => props.asides.get('notes', 0, ''),
  set: (text: string) => props.asides.put('notes', 0, text),
})
/** Strokes, each a list of x, y, x, y … in the drawing's own units. */
const strokes = computed(() => props.asides.get<number[][]>('drawing', 0, []))
const now = ref<number[]>()
const sheet = useTemplateRef('sheet')
const width = 300
const height = 260
const mostNumbers = 12_000
const path = (s: number[]) =>
  s.map((v, i) => (i % 2 ? v : `${i ? 'L' : 'M'}${v}`)).join(' ') + (s.length === 2 ? ` L${s[0]! + 0.1} ${s[1]}` : '')

function place(e: PointerEvent): number[] {
  const box = sheet.value!.getBoundingClientRect()
  return [Math.round(((e.clientX - box.left) / box.width) * width), Math.round(((e.clientY - box.top) / box.height) * height)]
}
function begin(e: PointerEvent) {
  ;(e.target as Element).setPointerCapture?.(e.pointerId)
  now.value = place(e)
}
function move(e: PointerEvent) {
  if (now.value && now.value.length < 2_000) now.value = [...now.value, ...place(e)]
}
const full = computed(() => strokes.value.flat().length > mostNumbers)
function end() {
  if (now.value && !full.value) props.asides.put('drawing', 0, [...strokes.value, now.value])
  now.value = undefined
}
/** By keys: arrows move the pen, finer with Shift; the space bar puts it down and lifts it. */
const pen = ref<[number, number]>([width / 2, height / 2])
const drawing = ref(false)
const steps: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function press(e: KeyboardEvent) {
  const step = steps[e.key]
  if (step) {
    const by = e.shiftKey ? 2 : 10
    const within = (at: number, most: number) => Math.max(0, Math.min(most, at))
    pen.value = [within(pen.value[0] + step[0] * by, width), within(pen.value[1] + step[1] * by, height)]
    if (now.value && now.value.length < 2_000) now.value = [...now.value, ...pen.value]
  } else if (e.key === ' ' || e.key === 'Enter') {
    if (drawing.value) lift()
    else {
      drawing.value = true
      now.value = [...pen.value]
    }
  } else if (e.key === 'Backspace' && !drawing.value) undo()
  else return
  e.preventDefault()
}
function lift() {
  drawing.value = false
  end()
}
const undo = () => props.asides.put('drawing', 0, strokes.value.slice(0, -1))
</script>

<template>
  <Pane :title="t('tools.pad')" @close="emit('close')">
    <textarea v-model="notes" autofocus rows="5" maxlength="5000" :aria-label="t('tools.notes')" />
    <svg
      ref="sheet"
      :viewBox="`0 0 ${width} ${height}`"
      role="application"
      tabindex="0"
      aria-describedby="pad-keys"
      :aria-label="t('tools.drawing', { n: strokes.length }, strokes.length)"
      @keydown="press"
      @blur="drawing && lift()"
      @pointerdown.prevent="begin"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="end"
    >
      <path v-for="(s, i) in now ? [...strokes, now] : strokes" :key="i" :d="path(s)" />
      <circle class="pen" :class="{ down: drawing }" :cx="pen[0]" :cy="pen[1]" r="5" />
    </svg>
    <p id="pad-keys">{{ t('tools.padKeys') }}</p>
    <p class="out-of-sight" role="status">{{ drawing ? t('tools.penDown') : t('tools.penUp') }}</p>
    <div class="row">
      <button type="button" class="quiet small" :disabled="!strokes.length" @click="undo">{{ t('tools.undoStroke') }}</button>
      <button type="button" class="quiet small" :disabled="!strokes.length" @click="asides.put('drawing', 0, [])">
        {{ t('tools.wipe') }}
      </button>
    </div>
    <p v-if="full" role="status">{{ t('tools.padFull') }}</p>
    <p>{{ t('tools.padKept') }}</p>
  </Pane>
</template>

<style scoped>
textarea {
  width: 100%;
  font: 16px/1.5 var(--reading);
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  padding: 8px;
}
svg {
  display: block;
  width: 100%;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  touch-action: none;
  cursor: crosshair;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.pen {
  display: none;
  fill: none;
  stroke: var(--ink);
}
svg:focus-visible .pen {
  display: inline;
}
.pen.down {
  fill: var(--ink);
}
.row {
  display: flex;
  gap: 8px;
  margin: 8px 0;
}
.row button {
  padding: 0 12px;
  font-size: 15px;
}
p {
  margin: 4px 0 0;
  font-size: 14px;
  color: var(--ink-soft);
}
</style>
