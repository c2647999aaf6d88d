<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/contract/client'
import { useSpelling } from './spelling'
import { t } from '@/words'

/** An answer in writing. It grows with what is written; a reader gives its credit. */
const written = defineModel<string>({ required: true })
const props = defineProps<{
  rows: number
  long?: boolean
  readOnly?: boolean
  /** For staff who look at it with the key: examples of good answers, and the rubric. */
  answer?: Schemas['Key']
  describedBy: string
}>()

const spelling = useSpelling()
const words = computed(() => written.value.trim().split(/\s+/).filter(Boolean).length)
const most = computed(() => (props.long ? 18_000 : 1_800))
/** What is left is said once little is, so that nothing pasted is cut without a word. */
const rest = computed(() => most.value - written.value.length)
const near = computed(() => rest.value < most.value / 10)
</script>

<template>
  <div class="written">
    <textarea
      v-model="written"
      :style="{ minHeight: `${(rows || 4) * 1.6 + 1.4}em` }"
      :maxlength="most"
      :disabled="readOnly"
      :aria-labelledby="describedBy"
      :spellcheck="spelling()"
      autocomplete="off"
    />
    <p v-if="!readOnly" class="hint">{{ t('item.words', { n: words }, words) }}</p>
    <p v-if="!readOnly && near" class="hint" role="status">
      <strong v-if="rest <= 0">{{ t('item.full') }}</strong>
      <template v-else>{{ t('item.room', { n: rest }, rest) }}</template>
    </p>
    <template v-if="answer">
      <p v-for="(example, i) in answer.correct" :key="i" class="is-key">{{ t('item.suchAs', { example }) }}</p>
      <table v-if="answer.rubric" class="rubric">
        <caption>
          {{
            t('item.rubric')
          }}
        </caption>
        <tbody v-for="trait in answer.rubric" :key="trait.name">
          <tr v-for="(l, i) in trait.levels" :key="i">
            <th v-if="i === 0" scope="rowgroup" :rowspan="trait.levels.length">{{ trait.name }}</th>
            <td class="points">{{ l.points }}</td>
            <td>{{ l.text }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
textarea {
  font: inherit;
  color: inherit;
  width: 100%;
  field-sizing: content;
  padding: 10px 14px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  line-height: 1.6;
  resize: vertical;
}
textarea:focus {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
.rubric {
  border-collapse: collapse;
  width: 100%;
  margin-top: 12px;
  font-size: 0.9em;
}
caption {
  text-align: left;
  font-weight: 700;
  padding-bottom: 4px;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 5px 12px 5px 0;
  border-bottom: 1px solid var(--rule);
}
tbody {
  border-bottom: 1.5px solid var(--ink);
}
.points {
  text-align: right;
  font-weight: 700;
}
</style>
