<script setup lang="ts">
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-vue'
import { useMutation, useQuery } from '@tanstack/vue-query'
import { useSessionStorage } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import BandSetUses from './BandSetUses.vue'
import { whoLocked, whoseName } from './whose'
import BandSwatch from '@/parts/BandSwatch.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, ProblemError, type Schemas } from '@/contract/client'
import { capital, gradeName, plural } from '@/contract/format'
import * as assessmentQueries from '@/queries/assess'
import * as rosterQueries from '@/queries/rosters'
import { useSubjects } from '@/queries/useSubjects'
import { useSession } from '@/contract/session'

/** Makes or changes a band set: names, order, cuts in percent, points or scale score. */
const props = defineProps<{ set: Schemas['BandSet'] | undefined; like?: Schemas['BandSet'] }>()
const emit = defineEmits<{ close: []; kept: [id: number]; copy: [] }>()

interface Row {
  name: string
  kind: 'percent' | 'raw' | 'scale'
  value: string
  of: string
  /** The official row that the cut as it stands was taken from; a cut that is typed anew was taken from none. */
  from?: { value: string; source: Schemas['CutSource'] }
}

/** What a person types of a set. */
interface Fields {
  /** Whose a new set is: '' for that of who makes it, 'person', or the id of a school. */
  whose: string
  name: string
  subject: string
  grades: string[]
  course: string
  year: string
  purpose: string
  rule: 'atLeast' | 'nearest'
  locked: boolean
  /** For mastery by standard, told from so many points on; '' for the whole score. */
  least: string
  rows: Row[]
}
const empty: Fields = {
  whose: '',
  name: '',
  subject: '',
  grades: [],
  course: '',
  year: '',
  purpose: '',
  rule: 'atLeast',
  locked: false,
  least: '',
  rows: [],
}
const f = ref<Fields>({ ...empty })
const { session } = useSession()
const district = computed(() => session.value?.roles.includes('district-coordinator') ?? false)
const allGrades = ['KG', '01', '02', '03', '04', '05', '06', '07', '08', '09', '10', '11', '12']
const may = computed(() => !props.set || props.set.mayChange)
const schools = useQuery(rosterQueries.schools)
const whoses = computed(() => [
  { value: '', label: district.value ? 'the district' : 'my school' },
  ...(district.value ? (schools.data.value ?? []) : []).map((s) => ({ value: String(s.id), label: s.name })),
  { value: 'person', label: 'me alone' },
])

/** A lock is for the schools of the district, on a set of its own. */
const lockable = computed(() => (props.set ? props.set.whose === 'district' : !f.value.whose))

const keep = useMutation({
  mutationFn: () => {
    const { whose, rows, grades, least, locked, ...rest } = f.value
    const body = {
      ...rest,
      locked: locked && lockable.value,
      ...(!props.set && belongs(whose)),
      least: Number(least),
      grades: allGrades.filter((g) => grades.includes(g)),
      bands: rows.map((r, i) => ({ name: r.name.trim(), cut: cut(r, i) })),
    }
    return props.set
      ? call(api.PUT('/band-sets/{id}', { params: { path: { id: props.set.id }, header: { 'If-Match': version } }, body }))
      : call(api.POST('/band-sets', { body }))
  },
  onSuccess: async (kept) => {
    version = kept.version // what is saved again in this panel is saved over this
    unsaved.value = ''
    await queries.invalidateQueries({ queryKey: assessmentQueries.bandSets.queryKey })
    await queries.invalidateQueries({ queryKey: ['assessment'] })
    emit('kept', kept.id)
  },
  // The new state is offered once it has been read.
  onError: async (e) => {
    if ((e as ProblemError).status === 409) await queries.invalidateQueries({ queryKey: assessmentQueries.bandSets.queryKey })
  },
})
const retire = useMutation({
  mutationFn: (retired: boolean) =>
    call(api.PUT('/band-sets/{id}/retired', { params: { path: { id: props.set!.id } }, body: { retired } })),
  onSuccess: () => queries.invalidateQueries({ queryKey: assessmentQueries.bandSets.queryKey }),
})
const error = computed(() => (keep.error.value instanceof ProblemError ? keep.error.value : undefined))

function belongs(whose: string): Pick<Schemas['BandSetInput'], 'whose' | 'school'> {
  if (whose === '') return {}
  return whose === 'person' ? { whose } : { whose: 'school', school: Number(whose) }
}

/** A copy begins with all of a set but its lock, under a name of its own. */
const copied = () => props.like && { ...props.like, id: 0, version: 0, name: `${props.like.name}, copy`, lockedBy: '' }

function rowOf({ name, cut }: Schemas['Band']): Row {
  const kind = cut.raw !== undefined ? 'raw' : cut.scale !== undefined ? 'scale' : 'percent'
  const row: Row = { name, kind, value: String(cut[kind] ?? ''), of: cut.of === undefined ? '' : String(cut.of) }
  return cut.source ? { ...row, from: { value: typedAs(row), source: cut.source } } : row
}
/** A cut as it stands in its fields. */
const typedAs = (row: Row) => [row.kind, row.value.trim(), row.of.trim()].join(' ')
const source = (row: Row) => (row.from?.value === typedAs(row) ? row.from.source : undefined)

let version = 0 // of the set that the fields were filled from
function fill(s: Schemas['BandSet'] | undefined) {
  version = s?.version ?? 0
  keep.reset()
  const rows: Row[] = (
    s?.bands ?? [
      { name: 'Launching', cut: {} },
      { name: 'On course', cut: { percent: 60 } },
    ]
  ).map(rowOf)
  f.value = s
    ? {
        whose: '',
        name: s.name,
        subject: s.subject,
        grades: [...s.grades],
        course: s.course,
        year: s.year,
        purpose: s.purpose,
        rule: s.rule,
        locked: !!s.lockedBy,
        least: s.least ? String(s.least) : '',
        rows,
      }
    : { ...empty, rows }
}
const typed = () => JSON.stringify(f.value)
/** What was typed and not saved stays in this tab: a panel that was closed opens with it again. */
const unsaved = useSessionStorage(`band-set/${props.set?.id ?? 'new'}`, '')
function restore() {
  if (!unsaved.value) return
  const kept = JSON.parse(unsaved.value) as { of: number; fields: Fields }
  if (kept.of !== version)
    unsaved.value = '' // somebody has changed the set since
  else f.value = kept.fields
}
let asFilled = ''
// Only once: what is typed is not written over when the list is read again.
watch(
  () => props.set,
  (now, before) => {
    if (before) return
    fill(now ?? copied())
    asFilled = typed()
    restore()
  },
  { immediate: true },
)
watch(typed, (now) => (unsaved.value = now === asFilled ? '' : JSON.stringify({ of: version, fields: f.value })))
const restored = computed(() => !!unsaved.value)
function forget() {
  unsaved.value = ''
  fill(props.set ?? copied())
}

const offered = useSubjects()
const known = useQuery(assessmentQueries.purposes)
const purposes = computed(() => [
  { value: '', label: 'Any purpose' },
  ...(known.data.value ?? []).map((p) => ({ value: p, label: capital(p) })),
])
const subjects = computed(() => [{ value: '', label: 'Any subject' }, ...offered.value])
const rules = [
  { value: 'atLeast', label: 'smallest score that is at least the percent' },
  { value: 'nearest', label: 'nearest score, halves upward' },
]
/** What the set is for; a set that stands stays what it is. */
const uses = [
  { value: 'score', label: 'the whole score' },
  { value: 'mastery', label: 'mastery, standard by standard' },
]
const use = computed({
  get: () => (f.value.least === '' ? 'score' : 'mastery'),
  set: (to) => (f.value.least = to === 'score' ? '' : '3'),
})
/** Mastery is told in percents: standards have different numbers of points. */
const kinds = computed(() =>
  [
    { value: 'percent', label: 'percent' },
    { value: 'raw', label: 'points' },
    { value: 'scale', label: 'scale score' },
  ].filter((k) => use.value === 'score' || k.value === 'percent'),
)

function cut(row: Row, i: number): Schemas['Cut'] {
  if (i === 0 || row.value.trim() === '') return {}
  const value = Number(row.value)
  return {
    [row.kind]: value,
    ...(row.kind === 'raw' && row.of.trim() && { of: Number(row.of) }),
    ...(source(row) && { source: source(row) }),
  }
}

function move(i: number, to: number) {
  const [row] = f.value.rows.splice(i, 1)
  if (row) f.value.rows.splice(to, 0, row)
}
const wrong = (i: number) => error.value?.fields.find((f) => f.pointer.startsWith(`/bands/${i}`))?.message
</script>

<template>
  <SidePanel :title="set ? set.name : 'A new band set'" width="560px" @close="emit('close')">
    <form id="band-set" class="form" @submit.prevent="keep.mutate()">
      <p v-if="set" class="soft">Belongs to {{ whoseName(set) }}. Last changed by {{ set.changedBy }}.</p>
      <template v-if="set && set.uses">
        <p class="soft">
          Assessments keep the cuts that they took. Drafts say what this change would move, and take it when you choose.
        </p>
        <BandSetUses :id="set.id" :uses="set.uses" :version="set.version" />
      </template>
      <div class="field">
        <label for="set-name">Name</label>
        <InputText id="set-name" v-model="f.name" maxlength="200" required :disabled="!may" />
        <span v-if="error?.of('/name')" class="wrong">{{ error.of('/name') }}</span>
      </div>
      <div v-if="!set" class="field">
        <span id="set-whose" class="label">Belongs to</span>
        <Choose v-model="f.whose" :options="whoses" aria-labelledby="set-whose" />
        <span v-if="error?.of('/whose')" class="wrong">{{ error.of('/whose') }}</span>
      </div>
      <div class="two">
        <div class="field">
          <span id="set-subject" class="label">Subject</span>
          <Choose v-model="f.subject" :options="subjects" aria-labelledby="set-subject" :disabled="!may" />
        </div>
        <div class="field">
          <span id="set-grades" class="label">Grades, none for any</span>
          <div class="grades" role="group" aria-labelledby="set-grades">
            <label v-for="g in allGrades" :key="g"
              ><input v-model="f.grades" type="checkbox" :value="g" :disabled="!may" />{{ gradeName(g) }}</label
            >
          </div>
          <span v-if="error?.of('/grades')" class="wrong">{{ error.of('/grades') }}</span>
        </div>
      </div>

      <div class="two">
        <div class="field">
          <span id="set-purpose" class="label">Purpose</span>
          <Choose v-model="f.purpose" :options="purposes" aria-labelledby="set-purpose" :disabled="!may" />
        </div>
        <div class="field">
          <label for="set-course">Course, none for any</label>
          <InputText id="set-course" v-model="f.course" maxlength="200" :disabled="!may" />
        </div>
      </div>
      <div class="field">
        <label for="set-year">School year, none for any</label>
        <InputText id="set-year" v-model="f.year" maxlength="20" placeholder="2026–27" :disabled="!may" />
      </div>
      <div class="two">
        <div class="field">
          <span id="set-use" class="label">Bands of</span>
          <Choose v-model="use" :options="uses" aria-labelledby="set-use" :disabled="!may || !!set" />
        </div>
        <div v-if="use === 'mastery'" class="field">
          <label for="set-least">Least points of a standard</label>
          <InputText id="set-least" v-model="f.least" inputmode="decimal" :disabled="!may" />
          <span v-if="error?.of('/least')" class="wrong">{{ error.of('/least') }}</span>
        </div>
      </div>
      <div class="field">
        <span id="set-rule" class="label">A percent cut becomes the</span>
        <Choose v-model="f.rule" :options="rules" aria-labelledby="set-rule" :disabled="!may" />
      </div>
      <div v-if="lockable" class="field">
        <label v-if="district" class="lock"
          ><input v-model="f.locked" type="checkbox" :disabled="!may" />Locked: no school may use other cuts in its place</label
        >
        <p v-else-if="set?.lockedBy" class="soft">Locked by {{ whoLocked(set) }}. Schools cannot use other cuts in its place.</p>
        <span v-if="error?.of('/locked')" class="wrong">{{ error.of('/locked') }}</span>
      </div>
      <fieldset>
        <legend>Bands, from the lowest</legend>
        <ol>
          <li v-for="(r, i) in f.rows" :key="i">
            <div class="band-row">
              <BandSwatch :at="i" :of="f.rows.length" />
              <InputText
                v-model="r.name"
                size="small"
                maxlength="60"
                :aria-label="`Name of band ${i + 1}`"
                :disabled="!may"
                class="name"
              />
              <span v-if="i === 0" class="soft from">from 0</span>
              <template v-else>
                <span class="soft">from</span>
                <InputText
                  v-model="r.value"
                  size="small"
                  inputmode="decimal"
                  :aria-label="`Cut of band ${i + 1}`"
                  :disabled="!may"
                  class="value"
                />
                <Choose v-model="r.kind" :options="kinds" :aria-label="`What the cut of band ${i + 1} is in`" :disabled="!may" />
                <template v-if="r.kind === 'raw'"
                  ><span class="soft">of</span>
                  <InputText
                    v-model="r.of"
                    size="small"
                    inputmode="decimal"
                    :aria-label="`Total that the cut of band ${i + 1} was set for`"
                    :disabled="!may"
                    class="value"
                  />
                </template>
              </template>
              <span v-if="may" class="tools">
                <button type="button" :disabled="i === 0" :aria-label="`Move ${r.name} down in rank`" @click="move(i, i - 1)">
                  <IconArrowUp :size="15" />
                </button>
                <button
                  type="button"
                  :disabled="i === f.rows.length - 1"
                  :aria-label="`Move ${r.name} up in rank`"
                  @click="move(i, i + 1)"
                >
                  <IconArrowDown :size="15" />
                </button>
                <button
                  type="button"
                  :disabled="f.rows.length <= 2"
                  :aria-label="`Remove ${r.name}`"
                  @click="f.rows.splice(i, 1)"
                >
                  <IconTrash :size="15" />
                </button>
              </span>
            </div>
            <RouterLink v-if="source(r)" :to="`/bands/official/${source(r)!.tableId}`" class="source"
              >From the official table, {{ plural(source(r)!.raw, 'point') }}</RouterLink
            >
            <span v-if="wrong(i)" class="brick">{{ wrong(i) }}</span>
          </li>
        </ol>
        <Button
          v-if="may && f.rows.length < 8"
          label="Add a band"
          size="small"
          severity="secondary"
          outlined
          @click="f.rows.push({ name: '', kind: 'percent', value: '', of: '' })"
        />
      </fieldset>
      <Trouble :error="error">
        <button v-if="error?.status === 409" type="button" class="link-button" @click="fill(set)">Show the newest</button>
      </Trouble>
    </form>
    <template v-if="may" #footer
      ><Button
        v-if="set"
        :label="set.retired ? 'Offer again' : 'Retire'"
        :title="set.retired ? undefined : 'It is offered no more. Where it is used it stays.'"
        severity="secondary"
        text
        :disabled="retire.isPending.value"
        @click="retire.mutate(!set.retired)" /><Button
        v-if="set"
        label="Copy"
        severity="secondary"
        text
        @click="emit('copy')" /><Button
        v-if="restored"
        label="Discard changes"
        severity="secondary"
        text
        @click="forget" /><Button
        type="submit"
        form="band-set"
        :label="set ? 'Save changes' : 'Create band set'"
        :loading="keep.isPending.value"
    /></template>
  </SidePanel>
</template>

<style scoped>
.grades {
  display: grid;
  grid-template-columns: repeat(5, max-content);
  gap: 2px 14px;
}
.grades label {
  display: inline-flex;
  gap: 4px;
  align-items: center;
  min-height: 26px;
}
.lock {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 26px;
}
.form {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 600;
  font-size: 12.5px;
  margin-bottom: 4px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0 0 10px;
  border-top: 1.5px solid var(--ink);
}
li {
  border-bottom: 1px solid var(--rule);
  padding: 5px 0;
}
.band-row {
  display: flex;
  align-items: center;
  gap: 6px;
}
.name {
  flex: 1;
  min-width: 90px;
}
.value {
  width: 62px;
  text-align: right;
}
.tools {
  display: flex;
}
.tools button {
  border: 0;
  background: none;
  color: var(--ink-soft);
  width: 25px;
  height: 28px;
  display: grid;
  place-items: center;
  cursor: pointer;
}
.tools button:disabled {
  opacity: 0.3;
  cursor: default;
}
@media (max-width: 860px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
