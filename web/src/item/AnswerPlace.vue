<script setup lang="ts">
import { computed, type Component } from 'vue'
import type { Schemas } from '@/contract/client'
import ChoiceAnswer from './ChoiceAnswer.vue'
import JoinAnswer from './JoinAnswer.vue'
import MenusAnswer from './MenusAnswer.vue'
import NumberLineAnswer from './NumberLineAnswer.vue'
import OrderAnswer from './OrderAnswer.vue'
import PlacesPicture from './PlacesPicture.vue'
import SelectTextAnswer from './SelectTextAnswer.vue'
import SpotAnswer from './SpotAnswer.vue'
import TableAnswer from './TableAnswer.vue'
import TypedAnswer from './TypedAnswer.vue'
import WrittenAnswer from './WrittenAnswer.vue'
import { t } from '@/words'

/** One place to answer, by the part that answers its kind. */
const values = defineModel<string[]>({ required: true })
const props = defineProps<{
  kind: string
  place: Schemas['Interaction']
  name: string
  describedBy: string
  inline?: boolean
  readOnly?: boolean
  /** What is right, for staff who look at the item with its key. */
  answer?: Schemas['Key']
}>()

/** The part that answers choices of each kind; choices of any number are the usual one. */
const parts: Record<string, Component> = {
  order: OrderAnswer,
  match: JoinAnswer,
  sort: JoinAnswer,
  'box-table': TableAnswer,
  'select-text': SelectTextAnswer,
  menus: MenusAnswer,
}
const offered = computed(() => {
  const { choices, targets, maxChoices, among } = props.place
  if (among) return { choices, targets: targets ?? [], among }
  return targets?.length ? { choices, targets } : { choices, most: maxChoices ?? 0 }
})
const written = computed(() => props.kind === 'short-written' || props.kind === 'extended-written')
const one = computed({
  get: () => values.value[0] ?? '',
  set: (v: string) => (values.value = v === '' ? [] : [v]),
})
</script>

<template>
  <p v-if="kind === 'examiner'" class="hint">{{ t('item.adult') }}</p>
  <p v-else-if="place.line && place.line.places.length < 2" class="hint">{{ t('item.noLine') }}</p>
  <NumberLineAnswer
    v-else-if="place.line"
    v-model="one"
    :line="place.line"
    :read-only="readOnly"
    :correct="answer?.correct"
    :described-by="describedBy"
  />
  <SpotAnswer
    v-else-if="kind === 'spot' && place.picture"
    v-model="values"
    :picture="place.picture"
    :choices="place.choices ?? []"
    :most="place.maxChoices ?? 0"
    :name="name"
    :read-only="readOnly"
    :answer="answer"
    :described-by="describedBy"
  />
  <WrittenAnswer
    v-else-if="written"
    v-model="one"
    :rows="place.rows ?? 0"
    :long="kind === 'extended-written'"
    :read-only="readOnly"
    :answer="answer"
    :described-by="describedBy"
  />
  <TypedAnswer
    v-else-if="!place.choices?.length"
    v-model="one"
    :unit="place.unit"
    :number="kind === 'number'"
    :inline="inline"
    :read-only="readOnly"
    :correct="answer?.correct"
    :described-by="describedBy"
  />
  <template v-else>
    <PlacesPicture v-if="place.picture" :place="place" />
    <component
      :is="parts[kind] ?? ChoiceAnswer"
      v-model="values"
      v-bind="offered"
      :name="name"
      :read-only="readOnly"
      :correct="answer?.correct"
      :described-by="describedBy"
    />
  </template>
</template>
