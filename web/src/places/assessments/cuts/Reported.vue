<script setup lang="ts">
import { IconTrash } from '@tabler/icons-vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import Note from '@/parts/Note.vue'
import { ProblemError } from '@/contract/client'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** What is reported for a range of scores, as 2 for 5 to 7 points. Each range begins where the one before ends. */
const { sheet, editable, error, putReported } = useOpenSheet()
interface Row {
  to: string
  value: string
}
const rows = ref<Row[]>([])
const touched = ref(false)
watch(
  () => sheet.value.reported,
  (now) => {
    if (touched.value) return
    rows.value = now.map((r) => ({ to: String(r.to), value: r.value }))
  },
  { immediate: true, deep: true },
)
const grain = computed(() => sheet.value.cuts?.grain ?? 1)
const total = computed(() => sheet.value.total)
/** Where a range begins: at the next score after the one before. */
function from(i: number): number {
  if (!i) return 0
  return Math.round((Number(rows.value[i - 1]!.to) + grain.value) * 100) / 100
}
const wrong = (i: number) =>
  error.value instanceof ProblemError
    ? (error.value.fields.find((f) => f.pointer.startsWith(`/reported/${i}/`))?.message ?? '')
    : ''
function add() {
  touched.value = true
  rows.value.push({ to: String(total.value), value: '' })
}
function remove(i: number) {
  touched.value = true
  rows.value.splice(i, 1)
}
function cancel() {
  touched.value = false
  rows.value = sheet.value.reported.map((r) => ({ to: String(r.to), value: r.value }))
}
async function save() {
  const ranges = rows.value.map((r, i) => ({ from: from(i), to: Number(r.to), value: r.value }))
  if (await putReported(ranges)) touched.value = false
}
const bad = computed(() => rows.value.some((r) => r.to.trim() === '' || Number.isNaN(Number(r.to))))
</script>

<template>
  <details :open="!!sheet.reported.length || !!sheet.reportedFault">
    <summary>
      Reported values
      <span class="soft">{{ sheet.reported.length ? '' : 'scores speak for themselves' }}</span>
    </summary>
    <Note v-if="sheet.reportedFault">
      <strong class="resin">These ranges do not fit the lines as they stand.</strong> {{ sheet.reportedFault }}
    </Note>
    <ol v-if="rows.length" aria-label="Reported values">
      <li v-for="(r, i) in rows" :key="i">
        <span class="from">{{ Number.isNaN(from(i)) ? '–' : from(i) }}</span>
        <span>to</span>
        <InputText
          v-model="r.to"
          size="small"
          inputmode="decimal"
          class="score"
          :aria-label="`Last score of range ${i + 1}`"
          :invalid="!!wrong(i)"
          :disabled="!editable"
          @update:model-value="touched = true"
        />
        <span>{{ sheet.total === 1 ? 'point' : 'points' }} →</span>
        <InputText
          v-model="r.value"
          size="small"
          maxlength="60"
          :aria-label="`Value of range ${i + 1}`"
          :invalid="!!wrong(i)"
          :disabled="!editable"
          @update:model-value="touched = true"
        />
        <button v-if="editable" type="button" class="drop" :aria-label="`Remove range ${i + 1}`" @click="remove(i)">
          <IconTrash :size="15" />
        </button>
        <span v-if="wrong(i)" class="brick" role="alert">{{ wrong(i) }}</span>
      </li>
    </ol>
    <p v-else class="soft">
      Where a report wants a value in place of a score, as 2 for 5 to 7 points, say which scores become which value.
    </p>
    <div v-if="editable" class="row">
      <Button label="Add a range" size="small" severity="secondary" outlined @click="add" />
      <template v-if="touched">
        <Button label="Save changes" size="small" :disabled="bad" @click="save" />
        <Button label="Cancel" size="small" severity="secondary" text @click="cancel" />
      </template>
    </div>
  </details>
</template>

<style scoped>
details {
  margin-top: 18px;
}
summary {
  cursor: pointer;
  font: 600 14px var(--sans);
  padding: 4px 0;
}
summary .soft {
  font-weight: 400;
  margin-left: 8px;
}
ol {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  max-width: 560px;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
.from {
  min-width: 44px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.score {
  width: 72px;
  text-align: right;
}
.drop {
  border: 0;
  background: none;
  color: var(--ink-soft);
  min-width: 26px;
  min-height: 26px;
  cursor: pointer;
}
</style>
