<script setup lang="ts">
import { useInfiniteQuery, useMutation } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import Empty from '@/parts/Empty.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { useScreenKeys } from '@/parts/keys'
import { api, call, queries } from '@/contract/client'
import { useOpenSheet } from '@/places/assessments/sheet/open'
import ProfilePanel from '@/places/profiles/ProfilePanel.vue'
import AllowPanel from './AllowPanel.vue'
import GapList from './GapList.vue'
import MatrixTable from './MatrixTable.vue'
import PeoplePanel from './PeoplePanel.vue'
import { gapsFirst, type Gap, type Matrix } from './matrix'

/** Who gets what at this assessment, from where, and what it cannot offer yet. */
const { sheet } = useOpenSheet()
const route = useRoute()
const router = useRouter()
const id = computed(() => sheet.value.id)
const stay = (part: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...part } })
const text = (name: string) => (typeof route.query[name] === 'string' ? route.query[name] : '')

const words = ref(text('words'))
const settled = refDebounced(words, 200)
watch(settled, (w) => void stay({ words: w.trim() || undefined }))
const school = computed({ get: () => text('school'), set: (s) => void stay({ school: s || undefined }) })
const key = computed({ get: () => text('key'), set: (k) => void stay({ key: k || undefined }) })
const order = computed({ get: () => text('order') || 'gaps', set: (o) => void stay({ order: o === 'gaps' ? undefined : o }) })
const filter = computed(() => ({
  ...(text('words') && { words: text('words') }),
  ...(school.value && { school: school.value }),
  ...(key.value && { key: key.value }),
  ...(order.value === 'only' && { gaps: true }),
}))
const page = 300
const queryKey = computed(() => ['support-matrix', id.value, filter.value])
const query = useInfiniteQuery({
  queryKey,
  queryFn: ({ pageParam }) =>
    call(
      api.GET('/assessments/{id}/supports', {
        params: { path: { id: id.value }, query: { ...filter.value, from: pageParam, limit: page } },
      }),
    ),
  initialPageParam: 0,
  getNextPageParam: (last, all) => {
    const n = all.reduce((sum, p) => sum + p.rows.length, 0)
    return n < last.found && last.rows.length ? n : undefined
  },
  placeholderData: (before) => before,
})
const rows = computed(() => (query.data.value?.pages ?? []).flatMap((p) => p.rows))
const matrix = computed<Matrix | undefined>(() => {
  const first = query.data.value?.pages[0]
  return first && { ...first, rows: rows.value }
})
const ordered = computed(() => (order.value === 'gaps' ? gapsFirst(rows.value) : rows.value))
const again = () => queries.invalidateQueries({ queryKey: ['support-matrix', id.value] })

const student = computed(() => Number(route.query.student) || undefined)
const letter = ref<string>()
const people = ref<{ only?: string }>()
const allowing = ref<Gap>()
const rule = useMutation({
  mutationFn: ({ key: support, ruling, reason }: { key: string; ruling: 'allow' | 'without' | ''; reason: string }) =>
    call(
      api.PUT('/assessments/{id}/supports/{key}/ruling', {
        params: { path: { id: id.value, key: support } },
        body: { ruling, reason },
      }),
    ),
  onSuccess: async () => {
    allowing.value = undefined
    await again()
  },
})
const csv = computed(
  () =>
    `/api/assessments/${id.value}/supports.csv?${new URLSearchParams({ ...filter.value, ...(order.value === 'only' && { gaps: 'true' }) } as Record<string, string>).toString()}`,
)
const schools = computed(() => [
  { value: '', label: 'All schools' },
  ...(matrix.value?.schools ?? []).map((s) => ({ value: s, label: s })),
])
const keys = computed(() => [
  { value: '', label: 'Any support' },
  ...(matrix.value?.columns ?? []).map((c) => ({ value: c.key, label: c.name })),
])
const orders = [
  { value: 'gaps', label: 'Gaps first' },
  { value: 'only', label: 'Gaps only' },
  { value: 'name', label: 'By section' },
]
useScreenKeys([
  ['↑ ↓', 'from student to student'],
  ['Enter', 'open a profile'],
  ['Esc', 'close it'],
])
</script>

<template>
  <div class="page">
    <PageHead title="Supports">
      <template #note>
        <template v-if="matrix">{{ matrix.with }} of {{ matrix.students }} students. What is theirs applies by itself.</template>
      </template>
      <Button
        v-if="matrix?.with"
        label="Room sheets"
        severity="secondary"
        outlined
        @click="router.push(`/assessments/${id}/room-sheets`)"
      />
      <Button v-if="matrix?.places.length" label="People and paper" severity="secondary" outlined @click="people = {}" />
      <a v-if="matrix?.with" :href="csv" download>Export as CSV</a>
    </PageHead>
    <Trouble :error="query.error.value ?? rule.error.value" />
    <Empty
      v-if="matrix && !matrix.students"
      text="Nobody takes it yet. Choose sections under Distribution; then this shows who has which supports, and what this assessment cannot offer yet."
    />
    <Empty
      v-else-if="matrix && !matrix.with"
      text="Nobody who takes it has supports. They are entered under Rosters, or imported."
    />
    <div v-else-if="matrix" class="two">
      <section class="left" aria-label="Who gets what">
        <div class="tools">
          <ul class="legend" aria-label="What the marks mean">
            <li><span class="mark program" />by itself</li>
            <li><span class="mark person" />a person gives it</li>
            <li><span class="mark paper" />on paper</li>
            <li><span class="mark gap">a</span>not yet possible</li>
            <li><span class="mark weeks" />some weeks only</li>
          </ul>
          <InputText v-model="words" type="search" placeholder="Find a student" aria-label="Find a student" />
          <Choose v-if="schools.length > 2" v-model="school" :options="schools" aria-label="School" />
          <Choose v-model="key" :options="keys" aria-label="Support" />
          <Choose v-model="order" :options="orders" aria-label="Order" />
        </div>
        <MatrixTable
          :matrix="matrix"
          :rows="ordered"
          :chosen="student"
          :letter="letter"
          @open="(s) => stay({ student: String(s) })"
          @more="query.isFetchingNextPage.value || query.fetchNextPage()"
        />
        <p class="soft foot">
          <span>Coordinators alone see the grounds for a support. Every look is in the Ledger.</span>
          <span role="status">{{ matrix.found }} of {{ matrix.with }} in view</span>
        </p>
      </section>
      <aside aria-label="What is not possible yet">
        <GapList
          :matrix="matrix"
          :assessment="id"
          :letter="letter"
          @letter="letter = $event"
          @allow="allowing = $event"
          @without="rule.mutate({ key: $event.key, ruling: 'without', reason: '' })"
          @undo="rule.mutate({ key: $event, ruling: '', reason: '' })"
          @people="people = { only: $event }"
        />
      </aside>
    </div>
    <ProfilePanel v-if="student" :key="student" :student="student" @close="stay({ student: undefined })" @changed="again" />
    <PeoplePanel
      v-if="people && matrix"
      :matrix="matrix"
      :assessment="id"
      :only="people.only"
      @close="people = undefined"
      @changed="again"
    />
    <AllowPanel
      v-if="allowing"
      :gap="allowing"
      :busy="rule.isPending.value"
      :error="rule.error.value"
      @close="allowing = undefined"
      @allow="(reason) => allowing && rule.mutate({ key: allowing.key, ruling: 'allow', reason })"
    />
  </div>
</template>

<style scoped src="./marks.css"></style>

<style scoped>
.page {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  padding: 0 22px;
}
.two {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding-right: 16px;
}
aside {
  overflow: auto;
  padding: 0 0 30px 16px;
  border-left: 1px solid var(--rule);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  margin-bottom: 8px;
}
.tools :deep(input) {
  width: 180px;
}
.tools :deep(select) {
  max-width: 150px;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  list-style: none;
  margin: 0;
  padding: 0;
  flex-basis: 100%;
}
.legend li {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
.legend .mark {
  width: 22px;
  height: 15px;
  padding: 0;
  font-size: 12px;
}
.foot {
  display: flex;
  justify-content: space-between;
  margin: 6px 0 10px;
}
@media (max-width: 1000px) {
  .page {
    height: auto;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .left {
    height: 80vh;
  }
  aside {
    border-left: 0;
    padding: 16px 0;
  }
}
</style>
