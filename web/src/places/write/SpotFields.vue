<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, useTemplateRef } from 'vue'
import { api, call } from '@/contract/client'
import { placeOf, type Area, type Part } from './document'

/** The picture, and the areas that are right; they are put by marking them in the student's view. */
const props = defineProps<{ part: Part }>()

const file = useTemplateRef<HTMLInputElement>('file')
const problem = ref('')
const areas = computed(() => props.part.key.areas ?? [])

async function upload(e: Event) {
  const chosen = (e.target as HTMLInputElement).files?.[0]
  if (!chosen) return
  problem.value = ''
  try {
    const kept = await call(
      api.POST('/media', {
        params: { query: { file: chosen.name } },
        body: chosen as unknown as string, // the contract says binary; the body is the file itself
        bodySerializer: (body) => body,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
    if (!kept.width) throw new Error('This is not a picture.')
    props.part.place.picture = {
      alt: props.part.place.picture?.alt ?? '',
      source: kept.source,
      width: kept.width,
      height: kept.height,
    }
    props.part.key.areas = []
  } catch (error) {
    problem.value = (error as Error).message
  }
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
    <fieldset :id="placeOf(part, 'declarations[0].areas')">
      <legend>Areas that are right</legend>
      <p v-if="!areas.length" class="soft">Mark the right place in the picture beside; its area can be sized here.</p>
      <div v-for="(a, i) in areas" :key="i" class="area">
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
        <button type="button" class="link-button" @click="areas.splice(i, 1)">drop</button>
      </div>
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
.area :deep(input[type='number']) {
  width: 64px;
}
</style>
