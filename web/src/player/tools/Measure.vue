<script setup lang="ts">
import { computed } from 'vue'
import { useMoved } from './useMoved'
import { t } from '@/words'

/** A ruler in centimeters, or a protractor, that is moved and turned over a picture. It grows with the print. */
const props = defineProps<{ kind: 'ruler' | 'protractor'; print: number }>()
const emit = defineEmits<{ close: [] }>()
const ruler = props.kind === 'ruler'
const { place, take, onKey } = useMoved(
  { x: 160, y: Math.max(120, window.innerHeight - 260), turn: 0, width: 0, height: 0 },
  { turn: true },
)
/** One centimeter at the browser's 96 dots an inch. */
const cm = 96 / 2.54
const long = 15
const box = ruler ? { w: long * cm + 20, h: 58 } : { w: 380, h: 210 }
const size = computed(() => ({ w: box.w * props.print, h: box.h * props.print }))
const ticks = Array.from({ length: long * 10 + 1 }, (_, i) => ({
  x: 10 + (i * cm) / 10,
  h: i % 10 === 0 ? 20 : i % 5 === 0 ? 14 : 8,
  n: i,
}))
const middle = { x: 190, y: 196, r: 180 }
const at = (degrees: number, r: number) => ({
  x: middle.x - r * Math.cos((degrees * Math.PI) / 180),
  y: middle.y - r * Math.sin((degrees * Math.PI) / 180),
})
const degrees = Array.from({ length: 181 }, (_, d) => {
  const inner = middle.r - (d % 10 === 0 ? 16 : d % 5 === 0 ? 11 : 6)
  const [a, b, label] = [at(d, middle.r), at(d, inner), at(d, middle.r - 28)]
  return { d, a, b, label }
})
</script>

<template>
  <div
    class="measure"
    role="group"
    tabindex="0"
    :aria-label="t(`tools.${kind}`)"
    :aria-description="t('tools.measureKeys')"
    :style="{ left: `${place.x}px`, top: `${place.y}px`, transform: `rotate(${place.turn}deg)`, width: `${size.w}px` }"
    @pointerdown="take($event)"
    @keydown="onKey"
    @keydown.esc.stop="emit('close')"
  >
    <svg :viewBox="`0 0 ${box.w} ${box.h}`" :width="size.w" :height="size.h" aria-hidden="true">
      <template v-if="ruler">
        <rect x="1" y="1" :width="box.w - 2" :height="box.h - 2" />
        <g v-for="m in ticks" :key="m.n">
          <line :x1="m.x" y1="1" :x2="m.x" :y2="m.h" />
          <text v-if="m.n % 10 === 0" :x="m.x" y="36">{{ m.n / 10 }}</text>
        </g>
        <text :x="box.w - 24" y="52">{{ t('tools.cm') }}</text>
      </template>
      <template v-else>
        <path :d="`M10 ${middle.y} A${middle.r} ${middle.r} 0 0 1 370 ${middle.y} Z`" />
        <g v-for="m in degrees" :key="m.d">
          <line :x1="m.a.x" :y1="m.a.y" :x2="m.b.x" :y2="m.b.y" />
          <text v-if="m.d % 20 === 0" :x="m.label.x" :y="m.label.y + 4">{{ m.d }}</text>
        </g>
        <line :x1="middle.x - 8" :y1="middle.y" :x2="middle.x + 8" :y2="middle.y" />
        <line :x1="middle.x" :y1="middle.y - 8" :x2="middle.x" :y2="middle.y" />
      </template>
    </svg>
    <button
      type="button"
      class="turn"
      :aria-label="t('tools.turn')"
      @pointerdown.stop="take($event, 'turn')"
      @click="place.turn += 15"
    >
      ⟳
    </button>
    <output class="out-of-sight" aria-live="polite">{{ t('tools.turned', { n: Math.round(place.turn) }) }}</output>
  </div>
</template>

<style scoped>
.measure {
  position: fixed;
  z-index: 5;
  cursor: move;
  touch-action: none;
  transform-origin: 50% 50%;
}
.measure:focus {
  outline: 3px solid var(--slate);
}
rect,
path {
  fill: color-mix(in srgb, var(--tint) 70%, transparent);
  stroke: var(--ink);
}
line {
  stroke: var(--ink);
  stroke-width: 1;
}
text {
  font: 600 12px var(--reading);
  text-anchor: middle;
  fill: var(--ink);
}
.turn {
  position: absolute;
  right: -22px;
  top: -22px;
  width: 44px;
  height: 44px;
  border: 1px solid var(--rule-strong);
  border-radius: 22px;
  background: var(--paper);
  color: var(--ink);
  font-size: 20px;
  cursor: grab;
}
</style>
