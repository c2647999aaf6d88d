<script setup lang="ts">
import { computed, nextTick } from 'vue'
import { local, type WaveShown } from './whom'

/** The days of one wave: its stretches in each, and its two ends as handles. */
const props = defineProps<{ wave: WaveShown; name: string; days: string[]; off: Set<string>; editable: boolean }>()
const emit = defineEmits<{ move: [end: 'opens' | 'closes', by: number] }>()
const dayBegins = 7 * 60
const dayEnds = 17 * 60
/** Where in the school day a minute lies, in percent of the column. */
const at = (minute: number) => Math.max(0, Math.min(100, ((minute - dayBegins) * 100) / (dayEnds - dayBegins)))
const of = computed(() => new Map(props.wave.days.map((d) => [d.date, d])))
const first = computed(() => props.wave.wave.opens.slice(0, 10))
const last = computed(() => props.wave.wave.closes.slice(0, 10))
const bars = (date: string) =>
  (of.value.get(date)?.spans ?? []).map(([from = 0, to = 0]) => ({
    left: `${at(from)}%`,
    width: `${Math.max(6, at(to) - at(from))}%`,
  }))
const ends = [
  ['opens', 'begins'],
  ['closes', 'ends'],
] as const

function onKey(e: KeyboardEvent, end: 'opens' | 'closes') {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -7, PageUp: 7 }[e.key]
  if (!by) return
  e.preventDefault()
  void move(e.currentTarget as HTMLElement, end, by)
}
/** The handle stands in another cell then: the focus goes with it. */
async function move(handle: HTMLElement, end: 'opens' | 'closes', by: number) {
  const row = handle.closest('tr')
  emit('move', end, by)
  await nextTick()
  row?.querySelector<HTMLElement>(`.end.${end}`)?.focus()
}
/** Drags an end over the columns; it is moved where it is let go. */
function drag(e: PointerEvent, end: 'opens' | 'closes') {
  const handle = e.currentTarget as HTMLElement
  const width = handle.closest('td')!.getBoundingClientRect().width
  const from = e.clientX
  handle.setPointerCapture(e.pointerId)
  const stop = (to: PointerEvent) => {
    handle.removeEventListener('pointerup', stop)
    const columns = Math.round((to.clientX - from) / width)
    // Weekends have no column: the day under the pointer counts, beyond the last column each is a day.
    const at = props.days.indexOf(end === 'opens' ? first.value : last.value)
    const target = props.days[at + columns]
    const by = target ? Math.round((Date.parse(target) - Date.parse(props.days[at]!)) / 86_400_000) : columns
    if (by) void move(handle, end, by)
  }
  handle.addEventListener('pointerup', stop)
}
</script>

<template>
  <td v-for="d in days" :key="d" class="day" :class="{ off: off.has(d), within: d >= first && d <= last }">
    <span class="bars" aria-hidden="true"><i v-for="(b, i) in bars(d)" :key="i" :style="b" /></span>
    <template v-for="[end, does] in ends" :key="end">
      <button
        v-if="editable && d === (end === 'opens' ? first : last)"
        type="button"
        class="end"
        :class="end"
        :aria-label="`${name} ${does} ${local(wave.wave[end])}. Left and right arrows move it by a day.`"
        :title="`${does} ${local(wave.wave[end])}`"
        @keydown="onKey($event, end)"
        @pointerdown="drag($event, end)"
      />
    </template>
    <span class="out-of-sight">{{ of.get(d)?.spans.length ? 'open' : of.has(d) ? 'no school' : '' }}</span>
  </td>
</template>

<style scoped>
.day {
  position: relative;
  padding: 0 !important;
  min-width: 34px;
  height: 46px;
  border-left: 1px solid var(--rule);
}
.within::before {
  content: '';
  position: absolute;
  inset: 10px 0 auto;
  border-top: 1.5px solid var(--ink-soft);
}
.bars {
  position: absolute;
  inset: 18px 3px 10px;
}
.bars i {
  position: absolute;
  inset-block: 0;
  background: var(--pine);
}
@media (forced-colors: active) {
  .bars i {
    background: CanvasText;
  }
}
.end {
  position: absolute;
  top: 2px;
  width: 24px;
  height: 24px;
  padding: 0;
  border: 0;
  background: none;
  cursor: ew-resize;
  touch-action: none;
}
.end::after {
  content: '';
  position: absolute;
  top: 2px;
  width: 4px;
  height: 13px;
  background: var(--ink);
}
.end.opens {
  left: -1px;
}
.end.opens::after {
  left: 0;
}
.end.closes {
  right: -1px;
}
.end.closes::after {
  right: 0;
}
</style>
