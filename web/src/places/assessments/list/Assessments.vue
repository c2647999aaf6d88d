<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { watchDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import { capital, gradeName, gradesName, moment } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as assessmentQueries from '@/queries/assess'
import StartDialog from './StartDialog.vue'
import { useAssessmentQuery, type Restriction } from './useAssessmentQuery'

const router = useRouter()
const { may } = useSession()
const { query, set, restricted, clear } = useAssessmentQuery()
const words = ref(query.value.words ?? '')
watchDebounced(words, (now) => set('words', now), { debounce: 180 })
const starting = ref(false)
const list = useQuery({
  ...assessmentQueries.assessments(query),
  placeholderData: keepPreviousData,
})

/** What there is to choose from: of everything one may see, so that a choice never takes its own way back. */
const all = useQuery({ ...assessmentQueries.assessments(), staleTime: 30_000 })
const values = (of: (a: NonNullable<typeof all.data.value>[number]) => string[]) =>
  [...new Set((all.data.value ?? []).flatMap(of).filter(Boolean))].sort()
const ownerName = (id: string) => all.data.value?.find((a) => String(a.ownerId) === id)?.owner ?? id
const filters = computed<{ key: Restriction; name: string; values: string[]; say: (v: string) => string }[]>(() => [
  { key: 'grade', name: 'Grade', values: values((a) => a.grades), say: gradeName },
  { key: 'subject', name: 'Subject', values: values((a) => [a.subject]), say: capital },
  { key: 'course', name: 'Course', values: values((a) => [a.course]), say: (v) => v },
  { key: 'year', name: 'Year', values: values((a) => [a.year]), say: (v) => v },
  { key: 'state', name: 'State', values: [...values((a) => [a.state]), 'shelved'], say: (v) => v },
  { key: 'owner', name: 'Owner', values: values((a) => (a.ownerId ? [String(a.ownerId)] : [])), say: ownerName },
  { key: 'label', name: 'Label', values: values((a) => a.labels), say: (v) => v },
])
</script>

<template>
  <div class="page">
    <PageHead title="Assessments" :note="query.sort === 'opened' ? 'Last opened first' : 'Last changed first'">
      <InputText v-model="words" data-search placeholder="Words in the title" aria-label="Words in the title" />
      <RouterLink v-if="may('build')" to="/assessments/defaults">Defaults</RouterLink>
      <Button v-if="may('build')" label="Start an assessment" @click="starting = true" />
    </PageHead>
    <div class="filters" role="group" aria-label="Narrow the list">
      <template v-for="f in filters" :key="f.key">
        <label v-if="f.values.length > 1 || query[f.key]"
          >{{ f.name }}
          <select :value="query[f.key] ?? ''" @change="set(f.key, ($event.target as HTMLSelectElement).value)">
            <option value="">any</option>
            <option v-for="v in f.values" :key="v" :value="v">{{ f.say(v) }}</option>
          </select></label
        >
      </template>
      <label v-if="may('build')"
        ><input
          type="checkbox"
          :checked="!!query.mine"
          @change="set('mine', ($event.target as HTMLInputElement).checked ? '1' : '')"
        />
        mine</label
      >
      <label
        >Order
        <select :value="query.sort" @change="set('sort', ($event.target as HTMLSelectElement).value)">
          <option value="opened">last opened</option>
          <option value="changed">last changed</option>
        </select></label
      >
      <button v-if="restricted" type="button" class="link-button" @click="((words = ''), clear())">all of them</button>
    </div>
    <Trouble :error="list.error.value" />
    <Empty
      v-if="list.data.value && !list.data.value.length"
      :text="
        restricted
          ? 'No assessment matches. Clear a filter.'
          : may('build')
            ? 'No assessment yet. Start one; it is a draft until it is sealed.'
            : 'No assessment is shared with you. A coordinator shares one with a person, a school or a department.'
      "
    />
    <LedgerTable v-else label="Assessments" banded>
      <thead>
        <tr>
          <th>Title</th>
          <th>Subject</th>
          <th>For</th>
          <th>Year</th>
          <th>State</th>
          <th class="num">Lines</th>
          <th class="num">Points</th>
          <th class="double">Last changed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(a, i) in list.data.value" :key="a.id" :tabindex="i ? -1 : 0" @click="router.push(`/assessments/${a.id}`)">
          <td class="cut">
            <RouterLink :to="`/assessments/${a.id}`" tabindex="-1">{{ a.title }}</RouterLink>
            <span v-for="l in a.labels" :key="l" class="label-tag">{{ l }}</span>
          </td>
          <td>{{ capital(a.subject) }}</td>
          <td class="nowrap">{{ gradesName(a.grades) }}</td>
          <td class="nowrap">{{ a.year }}</td>
          <td class="nowrap">
            <StateTag :state="a.state" :tone="a.state === 'out' ? 'go' : 'quiet'" />
            <span v-if="a.edition > 1" class="soft"> edition {{ a.edition }}</span>
          </td>
          <td class="num">{{ a.lines }}</td>
          <td class="num">{{ a.points }}</td>
          <td class="double nowrap">{{ moment(a.changedAt) }}, {{ a.changedBy }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <StartDialog v-if="starting" @close="starting = false" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  margin-bottom: 10px;
}
.filters label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.nowrap {
  white-space: nowrap;
}
.label-tag {
  margin-left: 8px;
  padding: 0 5px;
  font-size: 11.5px;
  border: 1px solid var(--rule-strong);
  border-radius: 3px;
}
</style>
