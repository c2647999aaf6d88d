<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import Empty from '@/parts/Empty.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { gradesName, plural } from '@/contract/format'
import { api, call } from '@/contract/client'
import * as assessmentQueries from '@/queries/assess'
import { blank, cellsOf, type Cells } from './blueprintCells'
import LibraryList from './LibraryList.vue'
import { libraryKey } from './library'
import { readSheet, type Sheet } from '@/places/assessments/lines/lines'
import { useStandards } from './useStandards'

/** Blueprint rows made from chosen standards, so many each, or taken from the library or another assessment. */
const props = defineProps<{ sheet: Sheet }>()
const emit = defineEmits<{ close: []; take: [rows: Cells[]] }>()

const { ofGrades } = useStandards(computed(() => props.sheet))
type Source = 'standards' | 'library' | 'assessment'
const sources: [Source, string][] = [
  ['standards', 'Standards'],
  ['library', 'The library'],
  ['assessment', 'Another assessment'],
]
const from = ref<Source>('standards')
const words = ref('')
const chosen = ref<string[]>([])
const each = ref(4)
const level = ref('')
const levels = computed(() => [...new Set(ofGrades.value.map((s) => s.level).filter(Boolean))])
const shown = computed(() => {
  const typed = words.value.toLowerCase()
  return ofGrades.value.filter(
    (s) =>
      (!level.value || s.level === level.value) && (s.code.toLowerCase().includes(typed) || s.text.toLowerCase().includes(typed)),
  )
})
const allShown = computed(() => shown.value.length > 0 && shown.value.every((s) => chosen.value.includes(s.code)))
function toggleShown() {
  const codes = shown.value.map((s) => s.code)
  chosen.value = allShown.value
    ? chosen.value.filter((c) => !codes.includes(c))
    : [...chosen.value, ...codes.filter((c) => !chosen.value.includes(c))]
}
function take() {
  const rows = ofGrades.value.filter((s) => chosen.value.includes(s.code))
  emit(
    'take',
    rows.map((s) => ({ ...blank(), standards: s.code, title: s.text.slice(0, 200), count: String(each.value) })),
  )
}

const others = useQuery({
  ...assessmentQueries.assessments(),
  enabled: computed(() => from.value === 'assessment'),
})
const other = ref<number>()
const theirs = useQuery({
  queryKey: ['rows-of', other],
  queryFn: () => readSheet(other.value!),
  enabled: computed(() => !!other.value),
})

const kept = ref<number>()
const keptRows = useQuery({
  queryKey: [...libraryKey, kept],
  queryFn: () => call(api.GET('/blueprints/{id}', { params: { path: { id: kept.value! } } })),
  enabled: computed(() => !!kept.value),
})
/** The rows of what is chosen, of the library or of another assessment. */
const copied = computed(() =>
  from.value === 'library' ? kept.value && keptRows.data.value : other.value && theirs.data.value?.rows,
)
</script>

<template>
  <SidePanel title="Rows from…" @close="emit('close')">
    <div class="row choice" role="group" aria-label="Where rows come from">
      <Button
        v-for="[source, name] in sources"
        :key="source"
        :label="name"
        size="small"
        :outlined="from !== source"
        :aria-pressed="from === source"
        @click="from = source"
      />
    </div>
    <template v-if="from === 'standards'">
      <div class="row">
        <InputText v-model="words" placeholder="Code or words" aria-label="Code or words of a standard" />
        <label
          >Level
          <select v-model="level">
            <option value="">any</option>
            <option v-for="l in levels" :key="l">{{ l }}</option>
          </select></label
        >
        <button type="button" class="link-button" @click="toggleShown">{{ allShown ? 'Clear these' : 'Select these' }}</button>
      </div>
      <ul>
        <li v-for="s in shown" :key="s.id">
          <label
            ><input v-model="chosen" type="checkbox" :value="s.code" /> <span class="mono">{{ s.code }}</span>
            <span class="text">{{ s.text }}</span> <span class="soft">{{ plural(s.items, 'item') }}</span></label
          >
        </li>
      </ul>
      <Empty v-if="!shown.length" text="No standard of these grades has these words." />
    </template>
    <template v-else-if="from === 'library'">
      <Trouble :error="keptRows.error.value" />
      <LibraryList v-model="kept" :subject="sheet.outline.subject" />
    </template>
    <template v-else>
      <Trouble :error="others.error.value ?? theirs.error.value" />
      <p class="soft">Its rows are copied; a later change there does not come along.</p>
      <ul>
        <li v-for="a in others.data.value?.filter((x) => x.id !== sheet.id)" :key="a.id">
          <label
            ><input v-model="other" type="radio" name="other" :value="a.id" /> <span class="text">{{ a.title }}</span>
            <span class="soft">{{ gradesName(a.grades) }}, {{ a.year }}</span></label
          >
        </li>
      </ul>
    </template>
    <template #footer>
      <div v-if="from === 'standards'" class="row">
        <label>Items each <input v-model.number="each" type="number" min="1" max="300" class="each" /></label>
        <Button :label="`Make ${plural(chosen.length, 'row')}`" :disabled="!chosen.length" @click="take" />
      </div>
      <Button
        v-else
        :label="copied ? `Take ${plural(copied.length, 'row')}` : 'Take its rows'"
        :disabled="!copied || !copied.length"
        @click="copied && emit('take', copied.map(cellsOf))"
      />
    </template>
  </SidePanel>
</template>

<style scoped>
.choice {
  margin-bottom: 12px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 10px 0 0;
  border-top: 1.5px solid var(--ink);
}
li label {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
}
.text {
  flex: 1;
}
li .soft,
li .mono {
  white-space: nowrap;
}
.each {
  width: 64px;
  height: 30px;
  text-align: right;
}
</style>
