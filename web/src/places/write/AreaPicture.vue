<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { drawnArea, handleOf, movedArea, pulledArea } from './areas'
import type { Area } from './document'

/**
 * The areas of a picture where they lie: drawn with the mouse, moved by their middle, pulled at
 * their handle; or by keys, arrows moving and Alt with arrows sizing.
 */
const props = defineProps<{
  picture: { source: string; alt: string; width: number; height: number }
  areas: Area[]
  names: string[]
}>()
const emit = defineEmits<{ add: [area: Area]; change: [at: number, area: Area]; remove: [at: number] }>()

const svg = useTemplateRef<SVGSVGElement>('svg')
const shape = ref<'circle' | 'rectangle'>('rectangle')
const bounds = computed(() => ({ width: props.picture.width, height: props.picture.height }))

type Grip =
  | { is: 'draw'; from: [number, number] }
  | { is: 'move'; at: number; from: [number, number]; was: Area }
  | { is: 'pull'; at: number }
let grip: Grip | undefined
const drawing = ref<Area>()

function place(e: PointerEvent): [number, number] {
  const r = svg.value!.getBoundingClientRect()
  return [((e.clientX - r.left) / r.width) * bounds.value.width, ((e.clientY - r.top) / r.height) * bounds.value.height]
}
/** An area that does not change while it is moved: each step is counted from where it lay. */
const asItLies = (a: Area): Area => ({ ...a, at: [...a.at] })
function take(e: PointerEvent, what: Grip) {
  e.stopPropagation()
  grip = what
  svg.value!.setPointerCapture(e.pointerId)
}
function pull(e: PointerEvent) {
  if (!grip) return
  const [x, y] = place(e)
  if (grip.is === 'draw') drawing.value = drawnArea(shape.value, grip.from, [x, y], bounds.value)
  else if (grip.is === 'move') emit('change', grip.at, movedArea(grip.was, x - grip.from[0], y - grip.from[1], bounds.value))
  else emit('change', grip.at, pulledArea(props.areas[grip.at]!, x, y, bounds.value))
}
function letGo() {
  if (drawing.value) emit('add', drawing.value)
  drawing.value = grip = undefined
}
function onKey(e: KeyboardEvent, at: number) {
  const by = e.shiftKey ? 1 : Math.max(1, Math.round(bounds.value.width / 50))
  const step = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key]
  const a = props.areas[at]!
  const handle = handleOf(a)
  if (e.key === 'Delete') emit('remove', at)
  else if (step && e.altKey && handle)
    // A circle's handle goes out with right and down, in with left and up.
    emit(
      'change',
      at,
      pulledArea(
        a,
        handle[0] + step[0]! + (a.shape === 'circle' ? step[1]! : 0),
        handle[1] + (a.shape === 'circle' ? 0 : step[1]!),
        bounds.value,
      ),
    )
  else if (step && !e.altKey) emit('change', at, movedArea(a, step[0]!, step[1]!, bounds.value))
  else return
  e.preventDefault()
}
/** An area as the points or numbers of an SVG shape. */
const points = (a: Area) => a.at.map((n, i) => (i % 2 ? `${n}` : `${n},`)).join(' ')
const all = computed(() => (drawing.value ? [...props.areas, drawing.value] : props.areas))
const grain = computed(() => bounds.value.width / 60)
</script>

<template>
  <div class="areas">
    <div class="row">
      <label class="short"
        >Draw a
        <select v-model="shape">
          <option value="rectangle">rectangle</option>
          <option value="circle">circle</option>
        </select></label
      >
      <span class="soft">Drag on the picture to draw an area, on an area to move it, on its corner to size it.</span>
    </div>
    <div class="picture" :style="{ maxWidth: `${picture.width}px` }">
      <img :src="picture.source" :alt="picture.alt" :width="picture.width" :height="picture.height" draggable="false" />
      <svg
        ref="svg"
        :viewBox="`0 0 ${picture.width} ${picture.height}`"
        role="group"
        aria-label="Areas on the picture"
        @pointerdown="take($event, { is: 'draw', from: place($event) })"
        @pointermove="pull"
        @pointerup="letGo"
        @pointercancel="letGo"
      >
        <g
          v-for="(a, i) in all"
          :key="i"
          role="button"
          :tabindex="i < areas.length ? 0 : undefined"
          :aria-label="`${names[i] ?? `Area ${i + 1}`}. Arrow keys move it, Alt with arrow keys sizes it, Delete removes it.`"
          @keydown="onKey($event, i)"
          @pointerdown="i < areas.length && take($event, { is: 'move', at: i, from: place($event), was: asItLies(areas[i]!) })"
        >
          <circle v-if="a.shape === 'circle'" :cx="a.at[0]" :cy="a.at[1]" :r="a.at[2]" />
          <rect
            v-else-if="a.shape === 'rectangle'"
            :x="a.at[0]"
            :y="a.at[1]"
            :width="a.at[2]! - a.at[0]!"
            :height="a.at[3]! - a.at[1]!"
          />
          <polygon v-else :points="points(a)" />
          <rect
            v-if="handleOf(a) && i < areas.length"
            class="handle"
            :x="handleOf(a)![0] - grain"
            :y="handleOf(a)![1] - grain"
            :width="2 * grain"
            :height="2 * grain"
            @pointerdown="take($event, { is: 'pull', at: i })"
          />
        </g>
      </svg>
    </div>
  </div>
</template>

<style scoped>
.areas {
  display: grid;
  gap: 6px;
}
.picture {
  position: relative;
  border: 1px solid var(--rule-strong);
}
img {
  display: block;
  width: 100%;
  height: auto;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: none;
}
circle,
rect,
polygon {
  fill: color-mix(in srgb, var(--pine) 22%, transparent);
  stroke: var(--pine);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
  cursor: move;
}
.handle {
  fill: var(--paper);
  cursor: nwse-resize;
}
g:focus-visible {
  outline: none;
}
g:focus-visible > :first-child {
  stroke-width: 4;
  stroke-dasharray: 6 3;
}
</style>
