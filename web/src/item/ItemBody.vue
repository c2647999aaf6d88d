<script setup lang="ts">
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { languageInItself } from '@/contract/format'
import AnswerPlace from './AnswerPlace.vue'
import { useItemLanguage } from './language'
import { t } from '@/words'

/** An item as a student gets it. One set of answer parts serves the player, the preview and the author. */
const response = defineModel<Record<string, string[]>>({ required: true })
const props = defineProps<{
  shown: Schemas['Shown']
  /** Keeps the inputs of two items on one page apart. */
  name: string
  readOnly?: boolean
  /** What is right, by response, for staff who look at the item with its key. */
  keys?: Schemas['Keys']
  /** Id of the heading that names the item. */
  labelledBy?: string
}>()

const { language, choose } = useItemLanguage()
const variant = computed(() => props.shown.variants?.find((v) => v.language === language.value))
/** The language that the item was written in. */
const written = computed(() => props.shown.language ?? 'en')
const body = computed(() => variant.value?.body ?? props.shown.body)
/** The text that names a place to answer: the nearest one before it. */
function textBefore(i: number) {
  while (i > 0 && !body.value[i]!.html) i--
  return `${props.name}-text-${i}`
}

function give(id: string, values: string[]) {
  response.value = { ...response.value, [id]: values }
}
</script>

<template>
  <div class="item" role="group" :aria-labelledby="labelledBy" :lang="variant?.language ?? shown.language">
    <div v-if="shown.variants?.length" class="languages" role="group" :aria-label="t('language.ofItem')">
      <button type="button" :aria-pressed="!variant" :lang="written" @click="choose(written)">
        {{ languageInItself(written) }}
      </button>
      <button
        v-for="v in shown.variants"
        :key="v.language"
        type="button"
        :lang="v.language"
        :aria-pressed="variant === v"
        @click="choose(v.language)"
      >
        {{ languageInItself(v.language) }}
      </button>
    </div>
    <span v-if="!body[0]?.html" :id="`${name}-text-0`" class="out-of-sight">{{ t('item.answer') }}</span>
    <template v-for="(block, i) in body" :key="i">
      <SafeHtml
        v-if="block.html"
        :id="`${name}-text-${i}`"
        :html="block.html"
        :tag="block.inline ? 'span' : 'div'"
        data-read="questions"
        :class="block.inline ? 'runs-on' : 'text'"
      />
      <AnswerPlace
        v-if="block.interaction"
        :model-value="response[block.interaction.response] ?? []"
        :kind="block.interaction.kind ?? shown.kind"
        :place="block.interaction"
        :name="`${name}-${block.interaction.response}`"
        :inline="block.inline"
        :read-only="readOnly"
        :answer="keys?.[block.interaction.response]"
        :described-by="textBefore(i)"
        @update:model-value="give(block.interaction.response, $event)"
      />
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
.item > :deep(.text:not(:first-child)) {
  margin-top: 20px;
}
.item > :deep(div[role] + div[role]) {
  margin-top: 22px;
}
.text {
  margin-bottom: 14px;
}
.runs-on {
  line-height: 2.4;
}
.text :deep(p) {
  margin: 0 0 10px;
}
.text :deep(img),
.item :deep(.text img) {
  max-width: 100%;
  height: auto;
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
.languages {
  display: flex;
  justify-content: flex-end;
  margin-bottom: 10px;
}
.languages button {
  font: inherit;
  font-size: 0.85em;
  min-height: 36px;
  padding: 0 12px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: inherit;
  cursor: pointer;
}
.languages button + button {
  border-left: 0;
}
.languages button[aria-pressed='true'] {
  background: var(--pine);
  border-color: var(--pine);
  color: var(--on-pine);
}
.languages button:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
</style>
