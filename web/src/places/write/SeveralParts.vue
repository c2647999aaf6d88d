<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { kindName } from '@/contract/format'
import { blankPart, partKinds } from './blank'
import { partsOf, type ItemDocument } from './document'
import PartFields from './PartFields.vue'
import RichText from './RichText.vue'

/** The parts of an item: each with its text, its kind, its weight, and the part it depends on. */
const props = defineProps<{ document: ItemDocument; credits: Record<string, string[]> }>()
const parts = computed(() => partsOf(props.document))

/** The text block of a part: the one just before its place to answer. */
function textOf(response: string) {
  const body = props.document.body
  const at = body.findIndex((b) => b.interaction?.response === response)
  const before = body[at - 1]
  return before && !before.interaction && at > 1 ? before : undefined
}
function add(kind: string) {
  const used = parts.value.map((p) => p.place.response)
  let n = used.length + 1
  while (used.includes(`RESPONSE${n}`)) n++
  const { place, key } = blankPart(kind, `RESPONSE${n}`)
  props.document.body.push({ html: '' }, { interaction: place })
  props.document.declarations.push(key)
}
function drop(response: string) {
  const text = textOf(response)
  props.document.body = props.document.body.filter((b) => b !== text && b.interaction?.response !== response)
  props.document.declarations = props.document.declarations.filter((d) => d.response !== response)
  for (const d of props.document.declarations) if (d.needs === response) d.needs = undefined
  for (const v of props.document.variants ?? []) v.body = v.body.filter((b) => b.interaction?.response !== response)
}
function turn(response: string, kind: string) {
  const { place, key } = blankPart(kind, response)
  for (const b of props.document.body) if (b.interaction?.response === response) b.interaction = place
  const at = props.document.declarations.findIndex((d) => d.response === response)
  const { weight, needs } = props.document.declarations[at]!
  props.document.declarations[at] = { ...key, weight, needs }
}
</script>

<template>
  <section v-for="p in parts" :id="`parts[${p.at}]`" :key="p.place.response" class="one">
    <div class="row head">
      <h3>Part {{ p.at + 1 }}</h3>
      <label class="short"
        >Kind
        <select :value="p.kind" @change="turn(p.place.response, ($event.target as HTMLSelectElement).value)">
          <option v-for="k in partKinds" :key="k" :value="k">{{ kindName(k) }}</option>
        </select></label
      >
      <label class="short"
        >Weight <input v-model.number.lazy="p.key.weight" type="number" min="1" max="1000" placeholder="1"
      /></label>
      <label v-if="p.at > 0" class="short"
        >Counts only with
        <select :value="p.key.needs ?? ''" @change="p.key.needs = ($event.target as HTMLSelectElement).value || undefined">
          <option value="">any</option>
          <option v-for="o in parts.slice(0, p.at)" :key="o.place.response" :value="o.place.response">
            part {{ o.at + 1 }} right
          </option>
        </select></label
      >
      <button type="button" class="link-button" :disabled="parts.length < 2" @click="drop(p.place.response)">Remove</button>
    </div>
    <RichText
      v-if="textOf(p.place.response)"
      v-model="textOf(p.place.response)!.html!"
      :label="`Question of part ${p.at + 1}`"
      small
    />
    <PartFields :document="document" :part="p" :credits="credits[p.kind] ?? []" />
  </section>
  <Button label="Add a part" size="small" severity="secondary" outlined @click="add('single-choice')" />
</template>

<style scoped>
.one {
  display: grid;
  gap: 10px;
  border-top: 1.5px solid var(--ink);
  padding-top: 10px;
}
.head {
  flex-wrap: wrap;
}
h3 {
  margin: 0 8px 0 0;
  font-size: 13.5px;
}
.head :deep(input[type='number']) {
  width: 56px;
}
</style>
