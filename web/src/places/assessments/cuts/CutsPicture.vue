<script setup lang="ts">
import '@/parts/bands.css'
import { computed, ref, useTemplateRef } from 'vue'
import { bandClass, bandStyle } from '@/parts/bands'
import type { Schemas } from '@/contract/client'
import { across, bars, onGrain, scoreAt, ticks } from './scores'

/** The scores from 0 to the total, how many students are expected at each, and the cuts, which are dragged or moved with the arrow keys. */
const props = defineProps<{ cuts: Schemas['Cuts']; scores: Schemas['ScoreShare'][]; outlook?: Schemas['Outlook'] }>()
const emit = defineEmits<{ move: [at: number, raw: number]; official: [at: number] }>()

const all = computed(() => bars(props.cuts.total, props.cuts.grain, props.scores))
const highest = computed(() => Math.max(...all.value.map((b) => b.share)) || 1)
const starts = computed(() => props.cuts.starts)
/** The band of a score: the last that begins at or below it. */
const bandOf = (raw: number) => starts.value.findLastIndex((s, i) => i === 0 || (s.raw !== undefined && s.raw <= raw))
const lines = computed(() =>
  starts.value.flatMap((s, at) => (at > 0 && s.raw !== undefined ? [{ at, name: s.name, raw: s.raw }] : [])),
)
const percent = (share: number) => `${(100 * share).toFixed(1)}%`

const plot = useTemplateRef<HTMLElement>('plot')
const held = ref<{ at: number; raw: number }>()
const rawOf = (line: { at: number; raw: number }) => (held.value?.at === line.at ? held.value.raw : line.raw)

function take(e: PointerEvent, line: { at: number; raw: number }) {
  const head = e.currentTarget as HTMLElement
  head.setPointerCapture(e.pointerId)
  held.value = { ...line }
}
function drag(e: PointerEvent) {
  if (!held.value || !plot.value) return
  const box = plot.value.getBoundingClientRect()
  const raw = scoreAt((e.clientX - box.left) / box.width, all.value, props.cuts.total, props.cuts.grain)
  if (raw === held.value.raw) return
  held.value.raw = raw
  emit('move', held.value.at, raw)
}
const steps: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }
function press(e: KeyboardEvent, line: { at: number; raw: number }) {
  if (e.altKey || e.ctrlKey || e.metaKey) return
  if (e.key === 'o') return emit('official', line.at)
  const { total, grain } = props.cuts
  const step = e.shiftKey ? Math.max(1, grain) : grain
  const to =
    e.key in steps
      ? onGrain(line.raw + steps[e.key]! * step, total, grain)
      : e.key === 'Home'
        ? 0
        : e.key === 'End'
          ? total
          : undefined
  if (to === undefined) return
  e.preventDefault()
  if (to !== line.raw) emit('move', line.at, to)
}
/** What a cut says to who cannot see it. */
function spoken(line: { at: number; raw: number }) {
  const band = props.outlook?.bands[line.at]
  return `${line.raw} of ${props.cuts.total} points${band ? `, ${percent(band.share)} expected in ${band.name}` : ''}`
}
</script>

<template>
  <div class="picture">
    <div ref="plot" class="plot">
      <div class="bars" aria-hidden="true">
        <span
          v-for="b in all"
          :key="b.raw"
          :class="bandClass(bandOf(b.raw), starts.length)"
          :style="{ ...bandStyle(bandOf(b.raw), starts.length), height: `${(92 * b.share) / highest}%` }"
          :title="`${b.raw} points: ${percent(b.share)}`"
        />
      </div>
      <div
        v-for="line in lines"
        :key="line.at"
        class="cut"
        :class="{ held: held?.at === line.at }"
        :style="{ left: `${100 * across(rawOf(line), all)}%` }"
        role="slider"
        tabindex="0"
        :aria-label="`Cut of ${line.name}`"
        :aria-valuemin="0"
        :aria-valuemax="cuts.total"
        :aria-valuenow="rawOf(line)"
        :aria-valuetext="spoken(line)"
        @pointerdown="take($event, line)"
        @pointermove="drag"
        @pointerup="held = undefined"
        @pointercancel="held = undefined"
        @keydown="press($event, line)"
      >
        <b>{{ rawOf(line) }}</b>
      </div>
    </div>
    <div class="axis" aria-hidden="true">
      <span v-for="t in ticks(cuts.total)" :key="t" :style="{ left: `${100 * (across(t, all) + 0.5 / all.length)}%` }">{{
        t
      }}</span>
    </div>
  </div>
</template>

<style scoped>
.picture {
  padding-top: 28px;
  user-select: none;
}
.plot {
  position: relative;
  height: 220px;
  border-bottom: 1px solid var(--rule-strong);
}
.bars {
  position: absolute;
  inset: 0;
  display: flex;
  align-items: flex-end;
}
.bars span {
  flex: 1;
  margin: 0 0.5px;
  border: 1px solid color-mix(in srgb, var(--pine) 45%, transparent);
  border-bottom: 0;
}
.cut {
  position: absolute;
  top: -26px;
  bottom: -5px;
  width: 24px;
  margin-left: -12px;
  cursor: ew-resize;
  touch-action: none;
}
.cut::after {
  content: '';
  position: absolute;
  top: 22px;
  bottom: 0;
  left: 11px;
  border-left: 2px solid var(--ink);
}
.cut b {
  position: absolute;
  left: 50%;
  transform: translateX(-50%);
  min-width: 28px;
  height: 24px;
  padding: 0 5px;
  display: grid;
  place-items: center;
  background: var(--ink);
  color: var(--paper);
  border-radius: 3px;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
.cut:focus-visible,
.cut.held {
  outline: 2px solid var(--slate);
  outline-offset: 2px;
  border-radius: 3px;
}
.axis {
  position: relative;
  height: 22px;
  margin-top: 6px;
}
.axis span {
  position: absolute;
  transform: translateX(-50%);
  font-size: 12px;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}
</style>
