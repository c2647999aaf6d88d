<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { moment, plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import MakeupPanel from './MakeupPanel.vue'

/** Who has not handed in, over all sections that one sees; filtered as the address says. */
const props = defineProps<{ assessment: number; schools: { schoolId: number; name: string }[] }>()
const route = useRoute()
const router = useRouter()
const stay = (part: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...part } })
const state = computed({
  get: () => (typeof route.query.who === 'string' ? route.query.who : ''),
  set: (to) => void stay({ who: to || undefined }),
})
const school = computed({
  get: () => Number(route.query.school) || 0,
  set: (to) => void stay({ school: to ? String(to) : undefined }),
})
/** Sections that nobody has opened yet are told of above. */
const everywhere = computed({
  get: () => route.query.everywhere !== undefined,
  set: (on) => void stay({ everywhere: on ? '' : undefined }),
})
const filter = computed(() => ({
  ...(state.value && { begun: state.value === 'begun' }),
  ...(school.value && { school: school.value }),
  ...(!everywhere.value && { met: true }),
}))
const query = useInfiniteQuery({
  queryKey: computed(() => ['absent', props.assessment, filter.value]),
  queryFn: ({ pageParam }) =>
    call(
      api.GET('/assessments/{id}/absent', {
        params: { path: { id: props.assessment }, query: { ...filter.value, from: pageParam } },
      }),
    ),
  initialPageParam: 0,
  getNextPageParam: (last, all) => {
    const n = all.reduce((sum, p) => sum + p.students.length, 0)
    return n < last.found && last.students.length ? n : undefined
  },
  placeholderData: (before) => before,
})
const students = computed(() => query.data.value?.pages.flatMap((p) => p.students) ?? [])
const found = computed(() => query.data.value?.pages[0]?.found ?? 0)
const { may } = useSession()
const keyOf = (s: { sittingId: number; studentId: number }) => `${s.sittingId} ${s.studentId}`
/** Who is chosen for a makeup, of those that are shown. */
const chosen = ref<string[]>([])
const picked = computed(() => students.value.filter((s) => chosen.value.includes(keyOf(s))))
watch(filter, () => (chosen.value = []))
const all = computed({
  get: () => picked.value.length > 0 && picked.value.length === students.value.length,
  set: (on) => (chosen.value = on ? students.value.map(keyOf) : []),
})
const arranging = ref(false)
async function arranged(sitting: number) {
  await Promise.all(
    ['absent', 'makeups', 'progress'].map((key) => queries.invalidateQueries({ queryKey: [key, props.assessment] })),
  )
  await router.push(`/rooms/${sitting}`)
}
const csv = computed(() => {
  const asked = new URLSearchParams(Object.entries(filter.value).map(([k, v]) => [k, String(v)]))
  return `/api/assessments/${props.assessment}/absent.csv?${asked.toString()}`
})
const states = [
  { value: '', label: 'not begun or not finished' },
  { value: 'none', label: 'not begun' },
  { value: 'begun', label: 'begun, not finished' },
]
const schoolOptions = computed(() => [
  { value: 0, label: 'all schools' },
  ...props.schools.map((s) => ({ value: s.schoolId, label: s.name })),
])
</script>

<template>
  <section aria-label="Not handed in">
    <h2>Not handed in</h2>
    <div class="tools">
      <label>Who has <Choose v-model="state" :options="states" /></label>
      <label>at <Choose v-model="school" :options="schoolOptions" /></label>
      <label><input v-model="everywhere" type="checkbox" />Also where the door was never opened</label>
      <Button
        v-if="may('build') && found"
        :label="picked.length ? `Arrange a makeup for ${picked.length}` : 'Arrange a makeup'"
        size="small"
        severity="secondary"
        outlined
        :disabled="!picked.length"
        @click="arranging = true"
      />
      <a v-if="found" :href="csv" download>Export as CSV</a>
    </div>
    <Trouble :error="query.error.value" />
    <p v-if="query.isSuccess.value && !found" class="soft">Nobody: all have handed in.</p>
    <LedgerTable v-if="found" label="Who has not handed in" banded>
      <thead>
        <tr>
          <th v-if="may('build')" class="pick"><input v-model="all" type="checkbox" aria-label="Choose all that are shown" /></th>
          <th>Student</th>
          <th>Number</th>
          <th>School</th>
          <th>Section</th>
          <th>State</th>
          <th class="num">Answered</th>
          <th>Last saved</th>
          <th class="double">Window ends</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in students" :key="keyOf(s)">
          <td v-if="may('build')" class="pick">
            <input v-model="chosen" type="checkbox" :value="keyOf(s)" :aria-label="`Choose ${s.name}`" />
          </td>
          <td>{{ s.name }}</td>
          <td class="mono">{{ s.number }}</td>
          <td>{{ s.school }}</td>
          <td>
            <RouterLink :to="`/rooms/${s.sittingId}`">{{ s.section }}</RouterLink>
          </td>
          <td>{{ s.begun ? 'not finished' : 'not begun' }}</td>
          <td class="num">{{ s.begun ? s.answered : '–' }}</td>
          <td>{{ s.savedAt ? moment(s.savedAt) : '' }}</td>
          <td class="double">{{ moment(s.closesAt) }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th :colspan="may('build') ? 9 : 8" scope="row">
            {{ plural(found, 'student') }}{{ students.length < found ? `, ${students.length} shown` : '' }}
          </th>
        </tr>
      </tfoot>
    </LedgerTable>
    <Button
      v-if="query.hasNextPage.value"
      class="more"
      label="Show more"
      size="small"
      severity="secondary"
      outlined
      :loading="query.isFetchingNextPage.value"
      @click="query.fetchNextPage()"
    />
    <MakeupPanel v-if="arranging" :assessment="assessment" :students="picked" @close="arranging = false" @arranged="arranged" />
  </section>
</template>

<style scoped>
h2 {
  margin: 22px 0 6px;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  margin-bottom: 8px;
}
.tools label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.tools a {
  margin-left: auto;
}
.pick {
  width: 32px;
}
.tools input,
.pick input {
  accent-color: var(--pine);
}
.more {
  margin-top: 8px;
}
</style>
