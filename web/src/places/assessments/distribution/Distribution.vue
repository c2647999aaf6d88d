<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { plural } from '@/contract/format'
import { useKept } from '@/kept/useKept'
import Clash from '@/places/assessments/sheet/Clash.vue'
import { keepSheet } from '@/places/assessments/lines/lines'
import { useOpenSheet } from '@/places/assessments/sheet/open'
import EntryPanel from './EntryPanel.vue'
import Preflight from './Preflight.vue'
import Review from './Review.vue'
import SavedChoices from './SavedChoices.vue'
import SentPart from './SentPart.vue'
import { useWaves } from './useWaves'
import WavePanel from './WavePanel.vue'
import WavesTable from './WavesTable.vue'
import WhichForm from './WhichForm.vue'
import WhomTable from './WhomTable.vue'
import { choices, noWave, type Entry, type WaveShown } from './whom'

/** Whom it goes to and when; preflight beside it; one look at everything, and send. What is out stands above. */
const { sheet, query: sheetQuery } = useOpenSheet()
const router = useRouter()
const key = computed(() => ['distribution', sheet.value.id])
const path = computed(() => ({ path: { id: sheet.value.id } }))
const query = useQuery({
  queryKey: key,
  queryFn: () => call(api.GET('/assessments/{id}/distribution', { params: path.value })),
  refetchOnWindowFocus: false,
})
const view = computed(() => query.data.value)
const sent = useQuery({
  queryKey: computed(() => ['sent', sheet.value.id]),
  queryFn: () => call(api.GET('/assessments/{id}/sent', { params: path.value })),
})

const { value, clash, error, state, keep, takeTheirs, keepMine } = useKept({
  name: `${sheet.value.id}/distribution`,
  there: () => {
    const { entries = [], follow = true, waves = [], deal = '', seated = [], version = 0 } = view.value ?? {}
    return { value: { entries, follow: version ? follow : true, waves: waves.map((w) => w.wave), deal, seated }, version }
  },
  put: async (body, version) =>
    queries.setQueryData(
      key.value,
      await call(api.PUT('/assessments/{id}/distribution', { params: { ...path.value, header: { 'If-Match': version } }, body })),
    ),
  reread: query.refetch,
  editable: () => !!view.value && sheet.value.maySend,
})

const schools = computed(() => choices(view.value?.candidates ?? []).schools)
/** The waves as they are typed, with what the server last said of each. */
const waves = computed<WaveShown[]>(() =>
  (value.value.waves.length ? value.value.waves : [noWave()]).map((wave, i) => ({
    ...(view.value?.waves[i] ?? { sectionCount: 0, students: 0, days: [], hours: '' }),
    schoolNames: wave.schools.map((id) => schools.value.find((s) => s.id === id)?.name ?? ''),
    wave,
  })),
)
const { open: openWave, wave, others, change, remove, add } = useWaves(waves, (list) => (value.value.waves = list))
const openEntry = ref<number>()
function putEntry(entry: Entry) {
  value.value.entries.splice(openEntry.value!, 1, entry)
  openEntry.value = undefined
}

/** Who is in two of the chosen sections sits in this one. */
function seat(studentId: number, sectionId: number) {
  value.value.seated = [...value.value.seated.filter((s) => s.studentId !== studentId), { studentId, sectionId }]
}

/** What is out is shown without an empty form beside it. */
const more = ref(false)
const preparing = computed(() => more.value || !!value.value.entries.length || !sheet.value.sittings.length)
const reviewing = ref(false)
const reasons = ref<Record<string, string>>({})
async function review() {
  reviewing.value = await keep()
}
const send = useMutation({
  mutationFn: () =>
    call(
      api.POST('/assessments/{id}/distribution', {
        params: { ...path.value, header: { 'If-Match': view.value!.version } },
        body: { reasons: reasons.value },
      }),
    ),
  onSuccess: async (after) => {
    queries.removeQueries({ queryKey: key.value })
    await queries.invalidateQueries({ queryKey: ['sent'] })
    keepSheet(after)
    await router.push(`/assessments/${sheet.value.id}/rooms`)
  },
})
const changed = () => Promise.all([sent.refetch(), query.refetch(), sheetQuery.refetch()])
const limit = computed(() => (view.value?.minutes ? `${plural(view.value.minutes, 'minute')} for each student` : 'No time limit'))
</script>

<template>
  <div class="page">
    <PageHead title="Distribution">
      <template #note>{{ state === 'Saved' ? 'Saved.' : `${state}.` }}</template>
      <template v-if="view && sheet.maySend">
        <Button v-if="reviewing" label="Back to choosing" severity="secondary" outlined @click="reviewing = false" />
        <Button v-else-if="preparing" label="Review" :disabled="!value.entries.length" @click="review" />
      </template>
    </PageHead>
    <Clash v-if="clash" by="Somebody else" @theirs="takeTheirs" @mine="keepMine" />
    <Trouble v-else :error="error ?? send.error.value ?? query.error.value ?? sent.error.value" />

    <section v-if="sent.data.value?.length && !reviewing" aria-label="What is out">
      <h2>What is out</h2>
      <SentPart
        v-for="s in sent.data.value"
        :key="s.id"
        :sent="s"
        :assessment="sheet.id"
        :candidates="view?.candidates ?? []"
        @changed="changed"
      />
    </section>
    <Button v-if="view && !preparing && sheet.maySend" label="Send to more" severity="secondary" outlined @click="more = true" />
    <div v-else-if="view && !reviewing && preparing" class="who">
      <div>
        <Empty
          v-if="!view.candidates.length"
          text="No section has a course in this assessment's subject and grades. Look at its outline, or at the rosters."
        />
        <template v-else>
          <h2>{{ sent.data.value?.length ? 'Send to more' : 'Whom' }}</h2>
          <p v-if="!value.entries.length" class="soft">
            Nobody yet. Add the first entry: all sections, those of a course, a group …
          </p>
          <WhomTable
            :view="view"
            :editable="sheet.maySend"
            @add="openEntry = value.entries.length"
            @open="(i) => (openEntry = i)"
            @remove="(i) => value.entries.splice(i, 1)"
            @seat="seat"
          />
          <SavedChoices v-if="sheet.maySend" :entries="value.entries" @use="(entries) => (value.entries = entries)" />
          <label class="follow"
            ><input v-model="value.follow" type="checkbox" :disabled="!sheet.maySend" />Take in who comes later: a new section, a
            late enrolment</label
          >
          <h2>When</h2>
          <p class="soft">
            {{ limit }}. <RouterLink :to="`/assessments/${sheet.id}/settings`">Hours, days and how it is given</RouterLink>
          </p>
          <WavesTable :waves="waves" :editable="sheet.maySend" @open="(i) => (openWave = i)" @add="add" @change="change" />
          <WhichForm v-if="view.forms.length" v-model="value.deal" :view="view" :editable="sheet.maySend" />
        </template>
      </div>
      <Preflight :findings="view.findings" :assessment="sheet.id" />
    </div>
    <Review
      v-else-if="view && reviewing"
      v-model="reasons"
      :sheet="sheet"
      :view="view"
      :limit="limit"
      :sending="send.isPending.value"
      @send="send.mutate()"
    />
    <EntryPanel
      v-if="openEntry !== undefined && view"
      :key="openEntry"
      :entry="value.entries[openEntry]"
      :candidates="view.candidates"
      :groups="view.groups"
      @close="openEntry = undefined"
      @put="putEntry"
      @groups="query.refetch()"
    />
    <WavePanel
      v-if="openWave !== undefined"
      :key="openWave"
      :wave="wave"
      :candidates="view?.candidates ?? []"
      :others="others"
      :alone="waves.length === 1 && openWave === 0"
      @close="openWave = undefined"
      @put="(w) => change(openWave!, w)"
      @remove="remove"
    />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
.who {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 270px;
  gap: 28px;
}
h2 {
  margin: 14px 0 4px;
}
.follow {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 34px;
}
.follow input {
  accent-color: var(--pine);
}
@media (max-width: 1000px) {
  .who {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
