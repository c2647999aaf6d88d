<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import ProgressBar from 'primevue/progressbar'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import SidePanel from '@/parts/SidePanel.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { gradeName, moment } from '@/contract/format'
import { useSubjects } from '@/queries/useSubjects'

/** Brings in files: shows how far it is, can be cancelled, leaves a report. */
const emit = defineEmits<{ close: [] }>()

type Kind = 'standards' | 'roster' | 'items' | 'tables' | 'profiles'
const kinds: { value: Kind; label: string; hint: string; accept: string }[] = [
  { value: 'roster', label: 'Roster', hint: 'OneRoster 1.1 or 1.2 CSV, as a zip', accept: '.zip' },
  { value: 'standards', label: 'Standards', hint: 'a CASE 1.1 JSON file', accept: '.json' },
  {
    value: 'items',
    label: 'Items',
    hint: 'a QTI package (3.0, 2.2, 2.1), or a CSV or XLSX sheet with a row for each item',
    accept: '.zip,.csv,.xlsx',
  },
  {
    value: 'tables',
    label: 'Official tables',
    hint: 'what the state publishes: raw scores with their scale scores and bands, a CSV file or every sheet of an XLSX workbook',
    accept: '.csv,.xlsx',
  },
  {
    value: 'profiles',
    label: 'Accommodations',
    hint: 'a CSV with a row for each support, an Access for All profile (QTI 3) as XML, or a zip of many, named by roster id',
    accept: '.csv,.xml,.zip',
  },
]
const props = defineProps<{ kind?: Kind }>()
const kind = ref<Kind>(props.kind ?? 'roster')
const of = computed(() => kinds.find((k) => k.value === kind.value)!)
const file = ref<File>()
const given = ref({ subject: '', grade: '', bank: '', standard: '', year: '' })
const subjects = useSubjects()
const grades = ['KG', '01', '02', '03', '04', '05', '06', '07', '08', '09', '10', '11', '12']
const error = ref<Error>()
const sending = ref(false)
const shown = ref<number>()

const list = useQuery({
  queryKey: ['imports'],
  queryFn: () => call(api.GET('/imports')),
  refetchInterval: (q) => (q.state.data?.some((i) => i.state === 'running') ? 1_000 : false),
})
const report = useQuery({
  queryKey: ['import', shown],
  queryFn: async () => {
    const now = await call(api.GET('/imports/{id}', { params: { path: { id: shown.value! } } }))
    if (now.state !== 'running') void queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'import' })
    return now
  },
  enabled: computed(() => !!shown.value),
  refetchInterval: (q) => (q.state.data?.state === 'running' ? 300 : false),
})

async function start(look = false) {
  if (!file.value) return
  sending.value = true
  error.value = undefined
  try {
    const begun = await call(
      api.POST('/imports', {
        params: { query: { kind: kind.value, file: file.value.name, ...more(), ...(look && { look }) } },
        // The contract says binary; the body is the file itself.
        body: file.value as unknown as string,
        bodySerializer: (body) => body,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
    shown.value = begun.id
    await queries.invalidateQueries({ queryKey: ['imports'] })
  } catch (e) {
    error.value = e as Error
  } finally {
    sending.value = false
  }
}
const older = ref(false)
function more() {
  const { year, bank, standard, ...both } = given.value
  switch (kind.value) {
    case 'items':
      return said({ ...both, bank, standard })
    case 'tables':
      return said({ ...both, year })
    case 'standards':
      return older.value ? { older: true } : {}
  }
  return {}
}
/** What was given; the rest is not sent. */
const said = <T extends object>(fields: T) => Object.fromEntries(Object.entries(fields).filter(([, v]) => v)) as Partial<T>
async function cancel(id: number) {
  try {
    await call(api.DELETE('/imports/{id}', { params: { path: { id } } }))
  } catch (e) {
    error.value = e as Error
  }
}
const counts = (i: Schemas['Import']) =>
  [
    ['Read', i.read],
    ['New', i.new],
    ['Changed', i.changed],
    ['Unchanged', i.unchanged],
    ['Refused', i.refused],
    ['Left aside', i.aside],
  ] as const
const notes = computed(() =>
  (
    [
      ['assumed', 'Taken for granted'],
      ['aside', 'Left aside'],
    ] as const
  ).filter(([sort]) => report.data.value?.notes.some((n) => n.sort === sort)),
)
const tone = (state: string) => (state === 'done' ? 'go' : state === 'running' ? 'quiet' : 'caution')
</script>

<template>
  <SidePanel title="Import files" width="max(520px, 38vw)" @close="emit('close')">
    <form @submit.prevent="start()">
      <fieldset>
        <legend class="out-of-sight">What the file brings</legend>
        <label v-for="k in kinds" :key="k.value" class="kind"
          ><input v-model="kind" type="radio" name="kind" :value="k.value" />{{ k.label }}
          <span class="soft">{{ k.hint }}</span></label
        >
      </fieldset>
      <div class="field">
        <label for="file">File</label>
        <input id="file" type="file" :accept="of.accept" @change="file = ($event.target as HTMLInputElement).files?.[0]" />
      </div>
      <fieldset v-if="kind === 'items' || kind === 'tables'" class="given">
        <legend>For {{ kind }} that do not say it</legend>
        <label for="given-subject">Subject</label>
        <select id="given-subject" v-model="given.subject">
          <option value="">must be said</option>
          <option v-for="s in subjects" :key="s.value" :value="s.value">{{ s.label }}</option>
        </select>
        <label for="given-grade">Grade</label>
        <select id="given-grade" v-model="given.grade">
          <option value="">none</option>
          <option v-for="g in grades" :key="g" :value="g">{{ gradeName(g) }}</option>
        </select>
        <template v-if="kind === 'tables'">
          <label for="given-year">School year</label>
          <InputText id="given-year" v-model.trim="given.year" maxlength="20" placeholder="2025–26" />
        </template>
        <template v-else>
          <label for="given-standard">Standard</label>
          <InputText
            id="given-standard"
            v-model.trim="given.standard"
            maxlength="100"
            placeholder="its code; also instead of standards that nobody here knows"
          />
          <label for="given-bank">Bank</label>
          <InputText id="given-bank" v-model.trim="given.bank" maxlength="200" placeholder="Brought in, for packages" />
        </template>
      </fieldset>
      <label v-if="kind === 'standards'" class="kind"
        ><input v-model="older" type="checkbox" /> Let an older edition take the place of a newer one</label
      >
      <p class="soft">
        A bad row is refused alone and says why; a bad file changes nothing; the same file again changes nothing.
      </p>
      <Trouble :error="error" />
      <div class="row">
        <Button type="submit" label="Import" :disabled="!file" :loading="sending" />
        <Button
          v-if="kind === 'tables' || kind === 'profiles'"
          label="Look first"
          title="Shows how the file is understood and what would come in. Nothing is kept."
          severity="secondary"
          outlined
          :disabled="!file || sending"
          @click="start(true)"
        />
      </div>
    </form>

    <section v-if="report.data.value" aria-live="polite">
      <h3>{{ report.data.value.file }} <StateTag :state="report.data.value.state" :tone="tone(report.data.value.state)" /></h3>
      <template v-if="report.data.value.state === 'running'">
        <p>{{ report.data.value.stage || 'opening' }}: {{ report.data.value.read.toLocaleString('en-US') }} rows read</p>
        <ProgressBar mode="indeterminate" style="height: 6px" aria-label="Import under way" />
        <Button label="Cancel" size="small" severity="secondary" outlined class="cancel" @click="cancel(report.data.value.id)" />
      </template>
      <p v-if="report.data.value.message" :class="report.data.value.state === 'looked' ? 'soft' : 'brick'">
        {{ report.data.value.message }}
      </p>
      <dl>
        <template v-for="[name, n] in counts(report.data.value)" :key="name">
          <dt>{{ name }}</dt>
          <dd>{{ n.toLocaleString('en-US') }}</dd>
        </template>
      </dl>
      <ul v-if="report.data.value.refusals.length" class="refusals">
        <li v-for="(r, i) in report.data.value.refusals" :key="i">
          <span class="mono">{{ r.file }}</span> <template v-if="r.line">line {{ r.line }}, </template>
          <strong>{{ r.field }}</strong> {{ r.reason }}
        </li>
      </ul>
      <template v-for="[sort, head] in notes" :key="sort">
        <h4>{{ head }}</h4>
        <ul class="refusals">
          <li v-for="(r, i) in report.data.value.notes.filter((n) => n.sort === sort)" :key="i">
            <span class="mono">{{ r.file }}</span> <template v-if="r.line">line {{ r.line }}, </template>
            <strong>{{ r.field }}</strong> {{ r.reason }}
          </li>
        </ul>
      </template>
      <p v-if="report.data.value.twins">
        <RouterLink :to="`/bank/twins/${report.data.value.id}`" @click="emit('close')"
          >{{ report.data.value.twins }} of the new items</RouterLink
        >
        are nearly the same as another: look at them side by side.
      </p>
      <a v-if="report.data.value.state !== 'running'" :href="`/api/imports/${report.data.value.id}/report.csv`" download
        >Download the report</a
      >
    </section>

    <section v-if="list.data.value?.length">
      <h3>Earlier</h3>
      <ul class="earlier">
        <li v-for="i in list.data.value" :key="i.id">
          <button type="button" class="link-button" @click="shown = i.id">{{ i.file }}</button>
          <span class="soft">{{ i.kind }}, {{ moment(i.startedAt) }}</span>
          <StateTag :state="i.state" :tone="tone(i.state)" />
        </li>
      </ul>
    </section>
  </SidePanel>
</template>

<style scoped>
form {
  display: flex;
  flex-direction: column;
  gap: 12px;
  align-items: flex-start;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
.kind {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 28px;
}
.given {
  display: grid;
  grid-template-columns: 80px minmax(0, 1fr);
  gap: 6px 12px;
  align-items: center;
  width: 100%;
}
.given legend {
  padding: 0;
  margin-bottom: 6px;
  font-weight: 650;
}
.given select {
  justify-self: start;
}
h4 {
  margin: 12px 0 4px;
}
.kind input {
  accent-color: var(--pine);
}
section {
  margin-top: 22px;
  border-top: 1.5px solid var(--ink);
  padding-top: 10px;
}
dl {
  display: grid;
  grid-template-columns: 110px 90px;
  margin: 8px 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  text-align: right;
}
ul {
  list-style: none;
  padding: 0;
}
.refusals {
  max-height: 220px;
  overflow: auto;
}
li {
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
.earlier li {
  display: flex;
  gap: 10px;
  align-items: center;
}
.earlier .soft {
  flex: 1;
}
.cancel {
  margin-top: 8px;
}
</style>
