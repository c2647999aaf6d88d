<script setup lang="ts">
import { computed } from 'vue'
import { kindName } from '@/contract/format'
import ChoiceList from './ChoiceList.vue'
import type { ItemDocument, Part } from './document'
import { placeOf } from './document'
import RubricFields from './RubricFields.vue'
import SentenceFields from './SentenceFields.vue'
import SpotFields from './SpotFields.vue'
import TypedKeyFields from './TypedKeyFields.vue'

/** What an author says of one place to answer, by its kind. */
const props = defineProps<{ document: ItemDocument; part: Part; credits: string[] }>()

const joins = computed(() => ['match', 'sort', 'box-table'].includes(props.part.kind))
const sides: Record<string, [string, string, string, string]> = {
  match: ['Choices', 'choice', 'What they are joined to', 'target'],
  sort: ['Things to sort', 'thing', 'Groups', 'group'],
  'box-table': ['Rows', 'row', 'Columns', 'column'],
}
const often = computed({
  get: () => !(props.part.kind === 'match' ? props.part.place.targets : props.part.place.choices)?.[0]?.most,
  set: (on: boolean) => {
    const list = (props.part.kind === 'match' ? props.part.place.targets : props.part.place.choices) ?? []
    for (const c of list) c.most = on ? undefined : 1
  },
})
const rule = computed({
  get: () => (props.part.at < 0 ? props.document.credit : (props.part.key.credit ?? '')),
  set: (v: string) => {
    if (props.part.at < 0) props.document.credit = v
    else props.part.key.credit = v
  },
})
const ruleNames: Record<string, string> = {
  'all-or-nothing': 'all or nothing',
  'per-choice': 'each choice judged right',
  'key-minus': 'keys less distractors',
  'per-place': 'each right place',
  'longest-run': 'longest run in order',
  'per-part': 'each right part',
  'by-reader': 'given by a reader',
  mapped: 'values of answers',
  'as-written': 'rules of its own',
}
const offered = computed(() =>
  props.credits
    .filter((c) => c !== 'mapped' || rule.value === 'mapped')
    .concat(rule.value === 'as-written' ? ['as-written'] : []),
)
const right = computed({
  get: () => props.part.key.correct?.[0] ?? '',
  set: (v: string) => (props.part.key.correct = v.trim() ? [v] : []),
})
</script>

<template>
  <div class="part">
    <ChoiceList
      v-if="['single-choice', 'multiple-choice', 'order'].includes(part.kind)"
      :document="document"
      :part="part"
      side="choices"
      :title="part.kind === 'order' ? 'Things to put in order, as they are offered' : 'Choices'"
      one="choice"
      :pins="part.kind !== 'order'"
    />
    <label v-if="part.kind === 'multiple-choice'" class="short"
      >Maximum choices (0 = no limit)
      <input v-model.number.lazy="part.place.maxChoices" type="number" min="0" max="1000" placeholder="any"
    /></label>
    <template v-if="joins">
      <ChoiceList :document="document" :part="part" side="choices" :title="sides[part.kind]![0]" :one="sides[part.kind]![1]" />
      <ChoiceList :document="document" :part="part" side="targets" :title="sides[part.kind]![2]" :one="sides[part.kind]![3]" />
      <label v-if="part.kind !== 'sort'" class="check"
        ><input v-model="often" type="checkbox" />{{
          part.kind === 'match' ? 'a target takes any number of choices' : 'a row has any number of boxes'
        }}</label
      >
    </template>
    <SentenceFields v-if="['menus', 'select-text'].includes(part.kind)" :part="part" />
    <TypedKeyFields v-if="['text', 'number', 'number-line'].includes(part.kind)" :part="part" />
    <SpotFields v-if="part.kind === 'spot'" :part="part" />
    <RubricFields v-if="['short-written', 'extended-written'].includes(part.kind)" :part="part" />
    <label v-if="part.kind === 'examiner'" :id="placeOf(part, 'declarations[0].correct')">
      What a right answer is, for the adult
      <input v-model.lazy="right" maxlength="500" />
    </label>
    <label v-if="offered.length > 1" :id="placeOf(part, 'credit')" class="short">
      Credit
      <select v-model="rule" :aria-label="part.at < 0 ? 'Credit' : `Credit of part ${part.at + 1}`">
        <option v-for="c in offered" :key="c" :value="c">{{ ruleNames[c] ?? c }}</option>
      </select>
    </label>
    <p v-else class="soft">{{ kindName(part.kind) }}: {{ ruleNames[offered[0] ?? ''] ?? offered[0] }}</p>
  </div>
</template>

<style scoped>
.part {
  display: grid;
  gap: 12px;
}
</style>
