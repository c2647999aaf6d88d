<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/contract/client'
import { boxAround, percent } from './area'
import { plainWords } from './pairs'
import { t } from '@/words'

/**
 * A place on a picture. Where areas are offered each is a button; otherwise a spot
 * is put by touch or mouse, or with the arrow keys from the middle of the picture.
 */
defineOptions({ inheritAttrs: false })
const given = defineModel<string[]>({ required: true })
const props = defineProps<{
  picture: Schemas['Picture']
  choices: Schemas['Choice'][]
  most: number
  name: string
  readOnly?: boolean
  answer?: Schemas['Key']
  describedBy: string
}>()

const box = ref<HTMLElement>()
const said = ref('')
const shown = computed(() => (props.choices.length && props.answer ? props.answer.correct : given.value))
const spots = computed(() => (props.choices.length ? [] : given.value.map((v) => v.split(' ').map(Number) as [number, number])))

function give(id: string) {
  if (props.readOnly) return
  if (given.value.includes(id)) given.value = given.value.filter((v) => v !== id)
  else if (props.most === 1) given.value = [id]
  else if (!props.most || given.value.length < props.most) given.value = [...given.value, id]
}
function put(x: number, y: number) {
  if (props.readOnly) return
  const at = [
    Math.round(Math.min(Math.max(x, 0), props.picture.width)),
    Math.round(Math.min(Math.max(y, 0), props.picture.height)),
  ]
  const spot = at.join(' ')
  said.value = t('item.spotAt', {
    x: Math.round((100 * at[0]!) / props.picture.width),
    y: Math.round((100 * at[1]!) / props.picture.height),
  })
  given.value = props.most === 1 ? [spot] : [...given.value.slice(0, props.most ? props.most - 1 : undefined), spot]
}
function click(e: MouseEvent) {
  const r = box.value!.getBoundingClientRect()
  put(((e.clientX - r.left) / r.width) * props.picture.width, ((e.clientY - r.top) / r.height) * props.picture.height)
}
function key(e: KeyboardEvent) {
  if (props.choices.length || props.readOnly) return
  const by = e.shiftKey ? 1 : Math.max(1, Math.round(props.picture.width / 40))
  const move = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key]
  const last = spots.value.at(-1) ?? [props.picture.width / 2, props.picture.height / 2]
  if (e.key === 'Delete' || e.key === 'Backspace') {
    given.value = given.value.slice(0, -1)
    said.value = t('item.spotGone')
  } else if (e.key === 'Enter' || e.key === ' ') put(last[0], last[1])
  else if (move) {
    if (spots.value.length) given.value = given.value.slice(0, -1)
    put(last[0] + move[0]!, last[1] + move[1]!)
  } else return
  e.preventDefault()
}
/** An area of a choice as a box in percent of the picture; of a polygon only what is in it shows. */
function boxOf(a: Schemas['Area']) {
  const [l, top, r, b] = boxAround(a)
  const corners = a.at.map((n, i) => (i % 2 ? percent(n - top, b - top) : percent(n - l, r - l)))
  return {
    clipPath:
      a.shape === 'polygon'
        ? `polygon(${corners
            .map((c, i) => (i % 2 ? `${c}, ` : `${c} `))
            .join('')
            .slice(0, -2)})`
        : undefined,
    left: percent(l, props.picture.width),
    top: percent(top, props.picture.height),
    width: percent(r - l, props.picture.width),
    height: percent(b - top, props.picture.height),
    borderRadius: a.shape === 'circle' ? '50%' : '0',
  }
}
</script>

<template>
  <div role="group" :aria-labelledby="describedBy">
    <!-- The picture is one control with its own keys: arrows move the spot. -->
    <div
      ref="box"
      class="picture"
      :class="{ free: !choices.length && !readOnly }"
      :style="{ maxWidth: `${picture.width}px` }"
      :role="choices.length || readOnly ? undefined : 'application'"
      :aria-label="choices.length || readOnly ? undefined : t('item.spotKeys', { alt: picture.alt })"
      :tabindex="choices.length || readOnly ? undefined : 0"
      @click="choices.length || click($event)"
      @keydown="key"
    >
      <img :src="picture.source" :alt="picture.alt" :width="picture.width" :height="picture.height" draggable="false" />
      <button
        v-for="c in choices"
        :key="c.id"
        type="button"
        class="area"
        :class="{ chosen: shown.includes(c.id) }"
        :style="c.area && boxOf(c.area)"
        :aria-pressed="shown.includes(c.id)"
        :aria-label="plainWords(c.html)"
        :disabled="readOnly"
        @click.stop="give(c.id)"
      />
      <span
        v-for="(a, i) in choices.length ? [] : (answer?.areas ?? [])"
        :key="`key-${i}`"
        class="area key"
        :style="boxOf(a)"
        aria-hidden="true"
      />
      <span
        v-for="([x, y], i) in spots"
        :key="i"
        class="spot"
        :style="{ left: percent(x, picture.width), top: percent(y, picture.height) }"
        aria-hidden="true"
      />
    </div>
    <p v-if="!readOnly && !choices.length" class="hint">{{ t('item.spotHint') }}</p>
    <p v-if="answer" class="is-key">{{ t('item.key') }}</p>
    <p class="out-of-sight" role="status">{{ said }}</p>
  </div>
</template>

<style scoped>
.picture {
  position: relative;
  border: 1px solid var(--rule-strong);
}
.free {
  cursor: crosshair;
}
.picture:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
img {
  display: block;
  width: 100%;
  height: auto;
}
.area {
  position: absolute;
  padding: 0;
  border: 2px solid var(--rule-strong);
  background: color-mix(in srgb, var(--paper) 20%, transparent);
  cursor: pointer;
}
.area:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 2px;
}
.area.chosen,
.area.key {
  border: 3px solid var(--pine);
  background: color-mix(in srgb, var(--pine) 25%, transparent);
}
.key {
  pointer-events: none;
}
.spot {
  position: absolute;
  width: 22px;
  height: 22px;
  margin: -11px 0 0 -11px;
  border-radius: 50%;
  border: 3px solid var(--paper);
  background: var(--pine);
  box-shadow: 0 0 0 2px var(--pine);
  pointer-events: none;
}
</style>
