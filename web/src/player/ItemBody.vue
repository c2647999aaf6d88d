<script setup lang="ts">
import type { Component } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import ChoiceAnswer from './ChoiceAnswer.vue'
import JoinAnswer from './JoinAnswer.vue'
import MenusAnswer from './MenusAnswer.vue'
import NumberLineAnswer from './NumberLineAnswer.vue'
import OrderAnswer from './OrderAnswer.vue'
import SelectTextAnswer from './SelectTextAnswer.vue'
import TableAnswer from './TableAnswer.vue'
import TypedAnswer from './TypedAnswer.vue'

/** An item as a student gets it. One set of answer parts serves the player, the preview and the author. */
const response = defineModel<Record<string, string[]>>({ required: true })
defineProps<{
  shown: Schemas['Shown']
  /** Keeps the inputs of two items on one page apart. */
  name: string
  readOnly?: boolean
  /** The key, for staff who look at the item with it. */
  correct?: string[]
  /** Id of the heading that names the item. */
  labelledBy?: string
}>()

/** The part that answers each kind; choices of any number are the usual one. */
const parts: Record<string, Component> = {
  order: OrderAnswer,
  match: JoinAnswer,
  sort: JoinAnswer,
  'box-table': TableAnswer,
  'select-text': SelectTextAnswer,
  menus: MenusAnswer,
}

type Interaction = NonNullable<Schemas['Block']['interaction']>
function offered({ choices, targets, maxChoices }: Interaction) {
  return targets?.length ? { choices, targets } : { choices, most: maxChoices ?? 0 }
}

function give(id: string, values: string[]) {
  response.value = { ...response.value, [id]: values }
}
</script>

<template>
  <div class="item" role="group" :aria-labelledby="labelledBy">
    <template v-for="(block, i) in shown.body" :key="i">
      <SafeHtml v-if="block.html" :id="`${name}-text-${i}`" :html="block.html" class="text" />
      <template v-if="block.interaction">
        <NumberLineAnswer
          v-if="block.interaction.line"
          :model-value="response[block.interaction.response]?.[0] ?? ''"
          :line="block.interaction.line"
          :read-only="readOnly"
          :correct="correct"
          :described-by="`${name}-text-0`"
          @update:model-value="give(block.interaction.response, [$event])"
        />
        <TypedAnswer
          v-else-if="!block.interaction.choices?.length"
          :model-value="response[block.interaction.response]?.[0] ?? ''"
          :unit="block.interaction.unit"
          :read-only="readOnly"
          :correct="correct"
          :described-by="`${name}-text-0`"
          @update:model-value="give(block.interaction.response, $event === '' ? [] : [$event])"
        />
        <component
          :is="parts[shown.kind] ?? ChoiceAnswer"
          v-else
          :model-value="response[block.interaction.response] ?? []"
          v-bind="offered(block.interaction)"
          :name="`${name}-${block.interaction.response}`"
          :read-only="readOnly"
          :correct="correct"
          :described-by="`${name}-text-0`"
          @update:model-value="(values: string[]) => give(block.interaction!.response, values)"
        />
      </template>
    </template>
  </div>
</template>

<style scoped>
/* What every part says the same way: the key to who may see it, and a hint. */
.item :deep(p.is-key) {
  margin: 6px 0 0;
}
.item :deep(.is-key) {
  color: var(--pine);
  font-weight: 700;
  font-size: 0.85em;
}
.item :deep(.hint) {
  margin: 8px 0 0;
  color: var(--ink-soft);
  font-size: 0.9em;
}
.text {
  margin-bottom: 14px;
}
.text :deep(p) {
  margin: 0 0 10px;
}
.text :deep(table) {
  border-collapse: collapse;
  margin: 8px 0 12px;
}
.text :deep(th),
.text :deep(td) {
  padding: 6px 18px 6px 6px;
  border-bottom: 1px solid var(--rule);
  text-align: left;
}
.text :deep(th) {
  border-bottom: 1.5px solid var(--ink);
}
</style>
