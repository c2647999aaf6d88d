<script setup lang="ts">
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { joined, pairOf, parted } from './pairs'
import { t } from '@/words'

/** A table of boxes: choices are its rows, targets its columns; one box a row, or any. */
const pairs = defineModel<string[]>({ required: true })
const props = defineProps<{
  choices: Schemas['Choice'][]
  targets: Schemas['Choice'][]
  name: string
  readOnly?: boolean
  correct?: string[]
  describedBy: string
}>()

const shown = computed(() => props.correct ?? pairs.value)
const one = computed(() => props.choices.every((c) => c.most === 1))

function tick(row: Schemas['Choice'], column: Schemas['Choice'], on: boolean) {
  pairs.value = on ? joined(pairs.value, row, column) : parted(pairs.value, row.id, column.id)
}
</script>

<template>
  <div class="scroll">
    <table :aria-labelledby="describedBy">
      <thead>
        <tr>
          <td />
          <th v-for="column in targets" :id="`${name}-${column.id}`" :key="column.id" scope="col">
            <SafeHtml :html="column.html || '…'" tag="span" />
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in choices" :key="c.id">
          <th :id="`${name}-${c.id}`" scope="row"><SafeHtml :html="c.html || '…'" tag="span" /></th>
          <td v-for="column in targets" :key="column.id">
            <label>
              <input
                :type="one ? 'radio' : 'checkbox'"
                :name="`${name}-${c.id}-box`"
                :checked="shown.includes(pairOf(c.id, column.id))"
                :disabled="readOnly"
                :aria-labelledby="`${name}-${c.id} ${name}-${column.id}`"
                @change="tick(c, column, ($event.target as HTMLInputElement).checked)"
              />
            </label>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="correct" class="is-key">{{ t('item.key') }}</p>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  border-bottom: 1px solid var(--rule);
  padding: 0 10px;
}
thead th {
  border-bottom: 1.5px solid var(--ink);
  padding-block: 6px;
}
th[scope='row'] {
  min-width: 45%;
  padding-left: 0;
  text-align: left;
  font-weight: 500;
}
td {
  text-align: center;
}
label {
  display: grid;
  place-items: center;
  min-height: 48px;
  min-width: 48px;
  cursor: pointer;
}
input {
  appearance: none;
  width: 24px;
  height: 24px;
  margin: 0;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  cursor: inherit;
}
input[type='radio'] {
  border-radius: 50%;
}
input:checked {
  border-color: var(--pine);
  background: var(--pine);
  box-shadow: inset 0 0 0 4px var(--paper);
}
label:has(input:disabled) {
  cursor: default;
}
input:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 2px;
}
</style>
