<script setup lang="ts">
import { IconSquare, IconSquareCheck, IconStrikethrough } from '@tabler/icons-vue'
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { letter } from './letter'
import { useMasks } from './masks'
import { useStrikes } from './strikes'
import { t } from '@/words'

/** One or several of the choices offered. */
const chosen = defineModel<string[]>({ required: true })
const props = defineProps<{
  choices: Schemas['Choice'][]
  most: number
  name: string
  readOnly?: boolean
  correct?: string[]
  describedBy: string
}>()

/** Choices of a document have labels of their own and no words: they stand in a row. */
const labelled = computed(() => props.choices.every((c) => c.label))
const single = computed(() => props.most === 1)
const full = computed(() => props.most > 1 && chosen.value.length >= props.most)

function toggle(id: string) {
  if (single.value) chosen.value = [id]
  else chosen.value = chosen.value.includes(id) ? chosen.value.filter((c) => c !== id) : [...chosen.value, id]
}
const strikes = useStrikes()
const mayStrike = computed(() => !!strikes?.may() && !props.readOnly)
const struck = computed(() => (mayStrike.value ? strikes!.of(props.name) : []))
function strike(id: string) {
  strikes!.put(props.name, struck.value.includes(id) ? struck.value.filter((s) => s !== id) : [...struck.value, id])
}
const masks = useMasks()
/** A choice that is covered until the student uncovers it; the chosen one is open. */
const covered = (id: string) =>
  !!masks?.covers() && !props.readOnly && !chosen.value.includes(id) && !(masks.open.value[props.name] ?? []).includes(id)
function uncover(id: string) {
  masks!.open.value = { ...masks!.open.value, [props.name]: [...(masks!.open.value[props.name] ?? []), id] }
}
const isKey = (id: string) => props.correct?.includes(id) ?? false
</script>

<template>
  <div
    :role="single ? 'radiogroup' : 'group'"
    :aria-labelledby="describedBy"
    class="choices"
    :class="{ labelled, several: !single }"
  >
    <label
      v-for="(c, i) in choices"
      :key="c.id"
      :class="{ chosen: chosen.includes(c.id), key: isKey(c.id), struck: struck.includes(c.id) }"
    >
      <input
        :type="single ? 'radio' : 'checkbox'"
        :name="name"
        :value="c.id"
        :aria-label="c.html ? undefined : letter(i)"
        :checked="chosen.includes(c.id)"
        :disabled="readOnly || covered(c.id) || (full && !chosen.includes(c.id))"
        :aria-keyshortcuts="mayStrike ? 'X' : undefined"
        @change="toggle(c.id)"
        @keydown.x="mayStrike && strike(c.id)"
      />
      <span class="letter" aria-hidden="true"
        >{{ c.label ?? letter(i)
        }}<component :is="chosen.includes(c.id) ? IconSquareCheck : IconSquare" v-if="!single" :size="20" stroke="1.8"
      /></span>
      <button v-if="covered(c.id)" type="button" class="cover" @click.prevent="uncover(c.id)">
        {{ t('tools.uncover', { what: c.label ?? letter(i) }) }}
      </button>
      <SafeHtml v-else-if="!c.label" :html="c.html" tag="span" class="text" data-read="choices" />
      <span v-else class="out-of-sight">{{ c.label }}</span>
      <span v-if="isKey(c.id)" class="is-key">{{ t('item.key') }}</span>
      <button
        v-if="mayStrike"
        type="button"
        class="strike"
        tabindex="-1"
        :aria-pressed="struck.includes(c.id)"
        :aria-label="t(struck.includes(c.id) ? 'tools.unstrike' : 'tools.strike', { what: c.label ?? letter(i) })"
        @click.prevent="strike(c.id)"
      >
        <IconStrikethrough :size="18" stroke="1.8" aria-hidden="true" />
      </button>
    </label>
  </div>
  <p v-if="!single && !readOnly" class="hint">{{ most > 1 ? t('item.atMost', { n: most }) : t('item.several') }}</p>
  <button v-if="single && chosen.length && !readOnly" type="button" class="clear" @click="chosen = []">
    {{ t('item.clear') }}
  </button>
</template>

<style scoped>
.choices {
  display: grid;
  gap: 10px;
}
.labelled {
  display: flex;
  flex-wrap: wrap;
}
.labelled label {
  display: inline-grid;
  grid-template-columns: auto auto;
}
.labelled .letter {
  border-right: 0;
  min-width: 46px;
  padding: 0 12px;
}
label {
  display: grid;
  grid-template-columns: 44px 1fr auto;
  align-items: stretch;
  min-height: 48px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  cursor: pointer;
  position: relative;
}
label:hover {
  background: var(--tint);
}
.several:not(.labelled) label {
  grid-template-columns: 68px 1fr auto;
}
.several .letter {
  grid-auto-flow: column;
  gap: 6px;
  place-content: center;
}
.clear {
  font: inherit;
  font-size: 0.9em;
  min-height: 32px;
  margin-top: 6px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--slate);
  text-decoration: underline;
  cursor: pointer;
}
input {
  position: absolute;
  opacity: 0;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: pointer;
}
input:disabled {
  cursor: default;
}
label:has(input:focus-visible) {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
.letter {
  display: grid;
  place-items: center;
  font-weight: 700;
  border-right: 1px solid var(--rule);
}
.text {
  padding: 11px 14px;
  align-self: center;
}
.text :deep(p) {
  margin: 0;
}
.chosen {
  border-color: var(--pine);
  box-shadow: inset 0 0 0 1px var(--pine);
  background: var(--tint);
}
.chosen .letter {
  background: var(--pine);
  color: var(--on-pine);
}
@media (forced-colors: active) {
  .chosen {
    border: 3px solid Highlight;
  }
  .chosen .letter {
    forced-color-adjust: none;
    background: Highlight;
    color: HighlightText;
  }
}
.struck .text {
  text-decoration: line-through;
  color: var(--ink-soft);
}
.strike {
  position: relative; /* over the field that covers the row */
  width: 44px;
  border: 0;
  border-left: 1px solid var(--rule);
  background: none;
  color: inherit;
  cursor: pointer;
}
.strike[aria-pressed='true'] {
  background: var(--tint-strong);
}
.cover {
  position: relative; /* over the field that covers the row */
  border: 0;
  font: inherit;
  text-align: left;
  padding: 0 14px;
  color: var(--ink-soft);
  background: repeating-linear-gradient(135deg, var(--tint) 0 6px, var(--paper) 6px 12px);
  cursor: pointer;
}
.key {
  border-color: var(--pine);
  box-shadow: inset 0 0 0 1px var(--pine);
}
label .is-key {
  align-self: center;
  padding: 0 12px;
}
</style>
