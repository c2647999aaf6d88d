<script setup lang="ts">
import { computed } from 'vue'
import { placeOf, type Part } from './document'

/** How a typed word, a typed number or a point on a line is read and compared. */
const props = defineProps<{ part: Part }>()

const list = (get: () => string[] | undefined, set: (v: string[] | undefined) => void, by = '\n') =>
  computed({
    get: () => (get() ?? []).join(by),
    set: (v: string) => {
      const values = v
        .split(by.trim() || '\n')
        .map((x) => x.trim())
        .filter(Boolean)
      set(values.length ? values : undefined)
    },
  })
const accepted = list(
  () => props.part.key.correct ?? [],
  (v) => (props.part.key.correct = v ?? []),
)
const units = list(
  () => props.part.key.number?.units,
  (v) => (props.part.key.number = { ...props.part.key.number, units: v }),
  '; ',
)
type NumberFlag = 'relative' | 'percent' | 'clock' | 'comma'
const flag = (name: NumberFlag) => !!props.part.key.number?.[name]
function setFlag(name: NumberFlag, on: boolean) {
  props.part.key.number = { ...props.part.key.number, [name]: on || undefined }
}
const numberFlags: [NumberFlag, string][] = [
  ['relative', 'the tolerance is a share of the value'],
  ['percent', '75% is read as 0.75'],
  ['clock', '1:05 is read as 65 minutes'],
  ['comma', 'the decimal sign is a comma'],
]
</script>

<template>
  <div class="fields">
    <label :id="placeOf(part, 'declarations[0].correct')">
      Accepted answers, a line each
      <textarea v-model.lazy="accepted" rows="3" spellcheck="false" />
    </label>
    <template v-if="part.kind === 'text' && part.key.text">
      <label class="check"><input v-model="part.key.text.caseMatters" type="checkbox" />capitals matter</label>
      <label class="check"
        ><input v-model="part.key.text.slips" type="checkbox" />accept one letter off in words of five letters or more</label
      >
    </template>
    <template v-if="part.key.number">
      <label :id="placeOf(part, 'declarations[0].number.tolerance')" class="short"
        >Tolerance <input v-model.lazy="part.key.number.tolerance" maxlength="40" placeholder="exact"
      /></label>
      <template v-if="part.kind === 'number'">
        <label v-for="[name, words] in numberFlags" :key="name" class="check"
          ><input type="checkbox" :checked="flag(name)" @change="setFlag(name, ($event.target as HTMLInputElement).checked)" />{{
            words
          }}</label
        >
        <label class="short">Unit behind the box <input v-model.lazy="part.place.unit" maxlength="60" /></label>
        <label class="short"
          >Units that may be typed <input v-model.lazy="units" maxlength="300" placeholder="m; meters"
        /></label>
      </template>
    </template>
    <fieldset v-if="part.place.line" :id="placeOf(part, 'line')" class="line">
      <legend>The line</legend>
      <label class="short">From <input v-model.lazy="part.place.line.from" maxlength="40" /></label>
      <label class="short">to <input v-model.lazy="part.place.line.to" maxlength="40" /></label>
      <label class="short">step <input v-model.lazy="part.place.line.step" maxlength="40" /></label>
      <label class="short"
        >a number every <input v-model.number.lazy="part.place.line.labels" type="number" min="1" max="1000" /> steps</label
      >
    </fieldset>
  </div>
</template>
