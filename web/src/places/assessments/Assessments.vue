<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { capital, gradesName, moment } from '@/contract/format'
import StartDialog from './StartDialog.vue'

const router = useRouter()
const words = ref('')
const settled = refDebounced(words, 180)
const starting = ref(false)
const list = useQuery({
  queryKey: ['assessments', settled],
  queryFn: () => call(api.GET('/assessments', { params: { query: { words: settled.value || undefined } } })),
  placeholderData: keepPreviousData,
})
</script>

<template>
  <div class="page">
    <PageHead title="Assessments" note="Last changed first">
      <InputText v-model="words" data-search placeholder="Words in the title" aria-label="Words in the title" />
      <Button label="Start an assessment" @click="starting = true" />
    </PageHead>
    <Trouble :error="list.error.value" />
    <Empty
      v-if="list.data.value && !list.data.value.length"
      :text="
        words ? 'No assessment has these words in its title.' : 'No assessment yet. Start one; it is a draft until it is sealed.'
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
  padding: 16px 22px 40px;
}
.nowrap {
  white-space: nowrap;
}
</style>
