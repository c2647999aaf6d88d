<script setup lang="ts">
import { keepPreviousData, useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { capital, plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import { addDays, monthOf, monthStart, weeksOf } from './calendar'
import DaysOffPanel from './DaysOffPanel.vue'
import FeedPanel from './FeedPanel.vue'
import LoadTable from './LoadTable.vue'
import NextYearPanel from './NextYearPanel.vue'
import SpreadPanel from './SpreadPanel.vue'
import WeekGrid from './WeekGrid.vue'
import WindowPanel from './WindowPanel.vue'

/** The year's windows: grades over weeks, what they take of students below. */
const route = useRoute()
const router = useRouter()
const text = (v: unknown) => (typeof v === 'string' ? v : '')
const stay = (part: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...part } })
const today = new Date().toLocaleDateString('sv-SE')
const from = computed(() => text(route.query.from) || monthStart(today, 0))
const months = 4
const to = computed(() => text(route.query.to) || addDays(monthStart(from.value, months), -1))
const student = computed(() => Number(route.query.student) || 0)
/** A term of the roster, or months. */
const term = computed({
  get: () => c.value?.terms.findIndex((t) => t.from === from.value && t.to === to.value) ?? -1,
  set: (i) => void stay({ from: c.value?.terms[i]?.from, to: c.value?.terms[i]?.to }),
})
const terms = computed(() => [
  { value: -1, label: `${months} months` },
  ...(c.value?.terms ?? []).map((t, i) => ({ value: i, label: t.title })),
])
const school = computed({
  get: () => Number(route.query.school) || 0,
  set: (v) => void stay({ school: v ? String(v) : undefined }),
})
const subject = computed({ get: () => text(route.query.subject), set: (v) => void stay({ subject: v || undefined }) })
const asked = computed(() => ({
  from: from.value,
  to: to.value,
  ...(school.value && { school: school.value }),
  ...(subject.value && { subject: subject.value }),
  ...(student.value && { student: student.value }),
}))
const query = useQuery({
  queryKey: computed(() => ['calendar', asked.value]),
  queryFn: () => call(api.GET('/calendar', { params: { query: asked.value } })),
  placeholderData: keepPreviousData,
})
const c = computed(() => query.data.value)
const weeks = computed(() => (c.value ? weeksOf(c.value.from, c.value.to) : []))
const open = ref<{ distribution: number; grade: string }>()
const chosen = computed(() =>
  c.value?.windows.find((w) => w.distributionId === open.value?.distribution && w.grade === open.value?.grade),
)
const panel = ref<'days' | 'feed' | 'spread' | 'year'>()
/** What was just spread can go back. */
const moved = ref<number[]>([])
const undo = useMutation({
  mutationFn: () => call(api.POST('/calendar/spread/undo', { body: { distributions: moved.value } })),
  onSuccess: async () => {
    moved.value = []
    await Promise.all([query.refetch(), queries.invalidateQueries({ queryKey: ['distribution'] })])
  },
})
const { may } = useSession()
const distributions = computed(() => new Set(c.value?.windows.map((w) => w.distributionId)).size)
const file = computed(
  () => `/api/calendar.ics?${new URLSearchParams(Object.entries(asked.value).map(([k, v]) => [k, String(v)]))}`,
)
</script>

<template>
  <div class="page">
    <PageHead title="Calendar">
      <template #note
        ><template v-if="c"
          >{{ plural(distributions, 'window') }}, {{ plural(c.schoolDays, 'school day')
          }}<template v-if="c.clashes.length"
            >, <strong class="resin">{{ c.clashes.length === 1 ? '1 clash' : `${c.clashes.length} clashes` }}</strong></template
          >.</template
        ><template v-if="c?.student">
          Of {{ c.student }} alone.
          <button type="button" class="link-button" @click="stay({ student: undefined })">Everybody’s</button></template
        ></template
      >
      <Button v-if="c?.mayPlan" label="Days without school" severity="secondary" outlined @click="panel = 'days'" />
      <Button v-if="may('build')" label="Spread them out" severity="secondary" outlined @click="panel = 'spread'" />
      <Button v-if="may('build')" label="Copy a year" severity="secondary" outlined @click="panel = 'year'" />
      <Button label="Subscribe" severity="secondary" outlined @click="panel = 'feed'" />
      <a :href="file" download="calendar.ics">iCalendar file</a>
    </PageHead>
    <Trouble :error="query.error.value ?? undo.error.value" />
    <p v-if="moved.length" role="status">
      {{ plural(moved.length, 'window') }} moved.
      <button type="button" class="link-button" :disabled="undo.isPending.value" @click="undo.mutate()">Undo</button>
    </p>
    <p v-else-if="undo.isSuccess.value" role="status">The windows are back where they were.</p>
    <div class="row ask">
      <label
        >For
        <Choose
          v-model="school"
          :options="[{ value: 0, label: 'all schools' }, ...(c?.schools ?? []).map((s) => ({ value: s.id, label: s.name }))]"
      /></label>
      <label
        >Subject
        <Choose
          v-model="subject"
          :options="[{ value: '', label: 'all subjects' }, ...(c?.subjects ?? []).map((s) => ({ value: s, label: capital(s) }))]"
      /></label>
      <label>Time <Choose v-model="term" :options="terms" /></label>
      <span class="key"><i class="bar over" aria-hidden="true" />closed</span>
      <span class="key"><i class="bar out" aria-hidden="true" />out</span>
      <span class="key"><i class="bar planned" aria-hidden="true" />planned</span>
      <span class="months">
        <Button
          label="Earlier"
          size="small"
          severity="secondary"
          outlined
          @click="stay({ from: monthStart(from, -months), to: undefined })"
        />
        {{ monthOf(from) }} to {{ monthOf(to) }} {{ to.slice(0, 4) }}
        <Button
          label="Later"
          size="small"
          severity="secondary"
          outlined
          @click="stay({ from: monthStart(from, months), to: undefined })"
        />
      </span>
    </div>
    <template v-if="c">
      <WeekGrid
        :calendar="c"
        :weeks="weeks"
        :chosen="chosen"
        @open="(w) => (open = { distribution: w.distributionId, grade: w.grade })"
      />
      <LoadTable :calendar="c" :weeks="weeks" />
    </template>
    <WindowPanel
      v-if="chosen && c"
      :key="`${chosen.distributionId} ${chosen.grade}`"
      :window="chosen"
      :calendar="c"
      @close="open = undefined"
    />
    <DaysOffPanel
      v-if="panel === 'days' && c"
      :calendar="c"
      :school="school"
      @close="panel = undefined"
      @changed="query.refetch()"
    />
    <SpreadPanel
      v-if="panel === 'spread'"
      :from="from"
      :to="to"
      :school="school"
      :subject="subject"
      @close="panel = undefined"
      @changed="query.refetch()"
      @moved="(list) => ((moved = list), undo.reset())"
    />
    <NextYearPanel
      v-if="panel === 'year'"
      :from="monthStart(from, months - 12)"
      :to="to"
      :school="school"
      :subject="subject"
      @close="panel = undefined"
    />
    <FeedPanel
      v-if="panel === 'feed'"
      :school="school"
      :subject="subject"
      :words="`${c?.schools.find((s) => s.id === school)?.name ?? 'all schools'}, ${subject || 'all subjects'}`"
      @close="panel = undefined"
    />
    <p v-if="c && !c.windows.length" class="soft">
      No window lies in these months. A window stands here as soon as a distribution has dates.
    </p>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
.ask {
  gap: 18px;
  margin-bottom: 10px;
  align-items: center;
}
.key {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.months {
  margin-left: auto;
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
.bar {
  width: 26px;
}
</style>
