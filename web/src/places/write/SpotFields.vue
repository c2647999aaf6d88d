<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/contract/client'
import ShelfPicker from '@/places/bank/shelf/ShelfPicker.vue'
import AreaPicture from './AreaPicture.vue'
import { nextId, placeOf, type Area, type Part } from './document'
import { keepMedia } from './media'

/** The picture, and the areas that are right; they are put by marking them in the student's view. */
const props = defineProps<{ part: Part }>()

const file = useTemplateRef<HTMLInputElement>('file')
const problem = ref('')
const picking = ref(false)
const seen = computed(() => !!props.part.place.choices?.length)
const areas = computed(() => (seen.value ? (props.part.place.choices ?? []).map((c) => c.area!) : (props.part.key.areas ?? [])))

/** Areas are seen and one is chosen, or they are not and a spot is put: both ways there and back. */
function show(on: boolean) {
  const { place, key } = props.part
  if (on) {
    const list = key.areas?.length ? key.areas : [middle()]
    place.choices = list.map((area, i) => ({ id: String.fromCharCode(65 + i), html: `area ${i + 1}`, area }))
    key.areas = undefined
    key.correct = []
  } else {
    key.areas = (place.choices ?? []).filter((c) => key.correct?.includes(c.id)).map((c) => c.area!)
    place.choices = undefined
    key.correct = []
  }
}
function middle(): Area {
  const { width, height } = props.part.place.picture ?? { width: 400, height: 200 }
  return { shape: 'circle', at: [Math.round(width / 2), Math.round(height / 2), Math.max(4, Math.round(width / 20))] }
}
function add(area: Area = middle()) {
  if (!seen.value) {
    props.part.key.areas = [...areas.value, area]
    return
  }
  const list = (props.part.place.choices ??= [])
  list.push({ id: nextId(list), html: `area ${list.length + 1}`, area })
}
function change(i: number, to: Area) {
  const a = areas.value[i]!
  a.at = to.at
}
function drop(i: number) {
  if (!seen.value) {
    props.part.key.areas = areas.value.filter((_, k) => k !== i)
    return
  }
  const gone = props.part.place.choices![i]!
  props.part.place.choices = props.part.place.choices!.filter((c) => c !== gone)
  props.part.key.correct = (props.part.key.correct ?? []).filter((id) => id !== gone.id)
}

async function upload(e: Event) {
  const chosen = (e.target as HTMLInputElement).files?.[0]
  if (!chosen) return
  problem.value = ''
  try {
    const kept = await keepMedia(chosen)
    if (!kept.width) throw new Error('This is not a picture.')
    put(kept)
  } catch (error) {
    problem.value = (error as Error).message
  }
}
function put(kept: Schemas['Media']) {
  props.part.place.picture = {
    alt: kept.alt || (props.part.place.picture?.alt ?? ''),
    source: kept.source,
    width: kept.width,
    height: kept.height,
  }
  props.part.key.areas = []
}
function fromShelf(f: Schemas['Shelved']) {
  picking.value = false
  put({ ...f, source: `/media/${f.hash}` })
}
function set(a: Area, i: number, value: string) {
  const n = Math.round(Number(value))
  if (Number.isFinite(n)) a.at[i] = n
}
function reshape(i: number, shape: string) {
  const a = areas.value[i]!
  const [x = 0, y = 0, z = 0, w = 0] = a.at
  if (shape === 'rectangle' && a.shape === 'circle') a.at = [x - z, y - z, x + z, y + z]
  if (shape === 'circle' && a.shape === 'rectangle')
    a.at = [Math.round((x + z) / 2), Math.round((y + w) / 2), Math.round((z - x) / 2)]
  a.shape = shape
}
const names: Record<string, string[]> = { circle: ['left', 'top', 'radius'], rectangle: ['left', 'top', 'right', 'bottom'] }
</script>

<template>
  <div class="fields">
    <div :id="placeOf(part, 'picture')" class="row">
      <Button
        :label="part.place.picture?.source ? 'Another picture' : 'Choose the picture'"
        size="small"
        severity="secondary"
        outlined
        @click="file?.click()"
      />
      <Button label="From the shelf" size="small" severity="secondary" outlined @click="picking = true" />
      <ShelfPicker v-if="picking" pictures @choose="fromShelf" @close="picking = false" />
      <input ref="file" type="file" accept="image/*" class="out-of-sight" tabindex="-1" aria-hidden="true" @change="upload" />
      <span v-if="part.place.picture?.source" class="soft">{{ part.place.picture.width }} × {{ part.place.picture.height }}</span>
    </div>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <label v-if="part.place.picture">
      Alternative text
      <input v-model.lazy="part.place.picture.alt" maxlength="500" placeholder="What the picture shows" />
    </label>
    <label class="check"
      ><input
        type="checkbox"
        :checked="part.place.maxChoices === 1"
        @change="part.place.maxChoices = ($event.target as HTMLInputElement).checked ? 1 : 0"
      />one spot is asked for</label
    >
    <label class="check"
      ><input type="checkbox" :checked="seen" @change="show(($event.target as HTMLInputElement).checked)" />the areas are seen,
      and chosen from</label
    >
    <fieldset :id="placeOf(part, seen ? 'choices' : 'declarations[0].areas')">
      <legend>{{ seen ? 'Areas to choose from' : 'Areas that are right' }}</legend>
      <AreaPicture
        v-if="part.place.picture?.source"
        :picture="part.place.picture"
        :areas="areas"
        :names="areas.map((_, i) => (seen ? part.place.choices![i]!.html : `Area ${i + 1}`))"
        @add="add"
        @change="change"
        @remove="drop"
      />
      <p v-if="!areas.length" class="soft">Draw the right area on the picture, or mark its place in the picture beside.</p>
      <div v-for="(a, i) in areas" :id="placeOf(part, `choices[${i}]`)" :key="i" class="area">
        <input
          v-if="seen"
          v-model.lazy="part.place.choices![i]!.html"
          class="name"
          maxlength="200"
          :aria-label="`Name of area ${i + 1}`"
        />
        <select
          :value="a.shape"
          :aria-label="`Shape of area ${i + 1}`"
          @change="reshape(i, ($event.target as HTMLSelectElement).value)"
        >
          <option value="circle">circle</option>
          <option value="rectangle">rectangle</option>
          <option v-if="a.shape === 'polygon'" value="polygon">polygon</option>
        </select>
        <label v-for="(name, k) in names[a.shape] ?? []" :key="name" class="short"
          >{{ name }}<input type="number" :value="a.at[k]" @change="set(a, k, ($event.target as HTMLInputElement).value)"
        /></label>
        <button type="button" class="link-button" @click="drop(i)">Remove</button>
      </div>
      <Button label="Add an area" size="small" severity="secondary" outlined @click="add()" />
    </fieldset>
  </div>
</template>

<style scoped>
.area {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.area .name {
  flex: 1 1 120px;
  font: inherit;
  color: inherit;
  min-height: 32px;
  padding: 4px 8px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
}
.area :deep(input[type='number']) {
  width: 64px;
}
</style>
