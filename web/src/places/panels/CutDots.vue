<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/contract/client'
import { unitOf, valued } from './words'

/** Where the judges of a round put each cut: a dot a judge, one's own filled, the middle half of them as a bar. No name is told. */
const props = defineProps<{ cuts: Schemas['PanelCut'][]; method: Schemas['PanelMethod']; total: number }>()

/** The scale: points from nothing to all, logits as far as values lie. */
const ends = computed(() => {
  if (props.method === 'angoff') return { from: 0, to: props.total }
  const all = props.cuts.flatMap((c) => c.values)
  return { from: Math.floor(Math.min(...all) - 0.5), to: Math.ceil(Math.max(...all) + 0.5) }
})
const at = (v: number) => `${(100 * (v - ends.value.from)) / (ends.value.to - ends.value.from)}%`
/** Dots that would lie on each other stand on top of each other. */
function stacked(values: number[]) {
  const near = (ends.value.to - ends.value.from) / 45
  const rows: number[] = []
  return values.map((v) => {
    let row = rows.findIndex((last) => v - last >= near)
    if (row < 0) row = rows.length
    rows[row] = v
    return { v, row }
  })
}
const own = (c: Schemas['PanelCut']) => (c.own === undefined ? -1 : c.values.indexOf(c.own))
function said(c: Schemas['PanelCut']) {
  const unit = unitOf(props.method)
  const mine = c.own === undefined ? '' : ` Your own is ${valued(c.own, props.method)}.`
  return `${c.name}: ${c.values.length} judges from ${valued(c.low, props.method)} to ${valued(c.high, props.method)} ${unit}, median ${valued(c.median, props.method)}.${mine}`
}
</script>

<template>
  <div class="dots">
    <div v-for="c in cuts" :key="c.name" class="row" role="img" :aria-label="said(c)">
      <span class="name">{{ c.name }}</span>
      <span class="rail" :style="{ height: `${16 + 11 * Math.max(...stacked(c.values).map((d) => d.row))}px` }">
        <i class="median" :style="{ left: at(c.median) }" />
        <b
          v-for="(d, i) in stacked(c.values)"
          :key="i"
          :class="{ own: i === own(c) }"
          :style="{ left: at(d.v), bottom: `${3 + 11 * d.row}px` }"
        />
      </span>
      <span class="figure">{{ valued(c.median, method) }}</span>
    </div>
    <div class="row ends" aria-hidden="true">
      <span />
      <span class="scale"
        ><span>{{ ends.from }}</span
        ><span>{{ ends.to }} {{ unitOf(method) }}</span></span
      >
      <span class="soft">median</span>
    </div>
  </div>
</template>

<style scoped>
.dots {
  display: grid;
  gap: 6px;
}
.row {
  display: grid;
  grid-template-columns: 92px 1fr 56px;
  gap: 12px;
  align-items: end;
}
.rail {
  position: relative;
  border-bottom: 2px solid var(--rule-strong);
}
.rail b {
  position: absolute;
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border: 2px solid var(--pine);
  border-radius: 50%;
  background: var(--paper);
}
.rail b.own {
  background: var(--pine);
  outline: 2px solid var(--pine);
  outline-offset: 2px;
}
.median {
  position: absolute;
  bottom: -5px;
  height: calc(100% + 6px);
  border-left: 2px dashed var(--ink-soft);
}
.figure {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.scale {
  display: flex;
  justify-content: space-between;
  color: var(--ink-soft);
  font-size: 12px;
}
.ends .soft {
  text-align: right;
  font-size: 12px;
}
</style>
