<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/contract/client'
import { t } from '@/words'

/** A point on a number line: pressed, dragged or moved with the arrows. Nothing is answered until it was put somewhere. */
const given = defineModel<string>({ required: true })
const props = defineProps<{ line: Schemas['NumberLine']; readOnly?: boolean; correct?: string[]; describedBy: string }>()

const last = computed(() => props.line.places.length - 1)
const at = computed(() => props.line.places.indexOf(given.value))
/** The places of the key; a key written otherwise than its place (3/4 for 0.75) is found by its value. */
const keys = computed(() => (props.correct ?? []).map(nearest))

function numeric(text: string): number {
  const [a, b] = text.split('/')
  return Number(a) / Number(b ?? 1)
}
function nearest(text: string): number {
  const off = props.line.places.map((p) => Math.abs(numeric(p) - numeric(text)))
  return off.indexOf(Math.min(...off))
}
function put(place: number) {
  if (!props.readOnly) given.value = props.line.places[place] ?? ''
}
const left = (place: number) => ({ left: `calc(12px + (100% - 24px) * ${place / last.value})` })
</script>

<template>
  <div class="number-line" :class="{ still: readOnly }">
    <div class="drawn" aria-hidden="true">
      <span class="axis" />
      <template v-for="(p, i) in line.places" :key="p">
        <span class="tick" :class="{ long: i % line.labels === 0 }" :style="left(i)" />
        <span v-if="i % line.labels === 0" class="label" :style="left(i)">{{ p.replace('-', '−') }}</span>
      </template>
      <span v-if="at >= 0" class="point" :style="left(at)" />
      <span v-for="k in keys" :key="k" class="point" :style="left(k)" />
    </div>
    <input
      type="range"
      min="0"
      :max="last"
      :value="at >= 0 ? at : 0"
      :disabled="readOnly"
      :aria-labelledby="describedBy"
      :aria-valuetext="at >= 0 ? line.places[at] : t('item.notPut')"
      @input="put(Number(($event.target as HTMLInputElement).value))"
      @click="put(Number(($event.target as HTMLInputElement).value))"
      @keydown.enter="put(Number(($event.target as HTMLInputElement).value))"
    />
    <p v-if="correct" class="is-key">{{ t('item.keys', { list: correct.join(t('item.or')) }) }}</p>
    <p v-else-if="!readOnly" class="hint">
      {{ at >= 0 ? t('item.putAt', { place: given.replace('-', '−') }) : t('item.pressLine') }}
    </p>
  </div>
</template>

<style scoped>
.number-line {
  position: relative;
}
.drawn {
  position: relative;
  height: 84px;
}
.axis {
  position: absolute;
  left: 0;
  right: 0;
  top: 34px;
  border-top: 2px solid var(--ink);
}
.tick {
  position: absolute;
  top: 28px;
  height: 14px;
  margin-left: -0.5px;
  border-left: 1px solid var(--ink);
}
.tick.long {
  top: 23px;
  height: 24px;
}
.label {
  position: absolute;
  top: 52px;
  transform: translateX(-50%);
  font-size: 0.95em;
}
.point {
  position: absolute;
  top: 25px;
  width: 20px;
  height: 20px;
  margin-left: -10px;
  border-radius: 50%;
  background: var(--pine);
  box-shadow: 0 0 0 3px var(--paper);
}
input {
  position: absolute;
  inset: 0 0 auto;
  width: 100%;
  height: 70px;
  margin: 0;
  opacity: 0;
  cursor: pointer;
}
input::-webkit-slider-thumb {
  width: 24px;
  height: 70px;
}
input::-moz-range-thumb {
  width: 24px;
  height: 70px;
}
.still input {
  cursor: default;
}
.number-line:has(input:focus-visible) .drawn {
  outline: 3px solid var(--slate);
  outline-offset: 2px;
}
</style>
