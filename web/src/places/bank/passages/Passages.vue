<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { languageName, tenths } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as bankQueries from '@/queries/bank'
import BankTabs from '../BankTabs.vue'

/** The texts that items hang on. */
const { may } = useSession()
const router = useRouter()
const words = ref('')
const settled = refDebounced(words, 180)
const passages = useQuery({
  ...bankQueries.passages(settled),
  placeholderData: keepPreviousData,
})
</script>

<template>
  <div>
    <BankTabs>
      <Button v-if="may('build')" label="Write a passage" size="small" @click="router.push('/bank/passages/new')" />
    </BankTabs>
    <div class="page">
      <InputText v-model="words" data-search placeholder="Words in title and text" aria-label="Words in title and text" />
      <Trouble :error="passages.error.value" />
      <Empty v-if="passages.data.value && !passages.data.value.length" text="No passage holds these words." />
      <LedgerTable v-else label="Passages" banded>
        <thead>
          <tr>
            <th>Passage</th>
            <th>Bank</th>
            <th>Source and permission</th>
            <th>Language</th>
            <th class="num">Words</th>
            <th class="num" title="Flesch–Kincaid grade level">Reads like grade</th>
            <th class="num double">Items</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(p, i) in passages.data.value"
            :key="p.id"
            :tabindex="i ? -1 : 0"
            @click="router.push(`/bank/passages/${p.id}`)"
          >
            <td class="cut">
              <RouterLink :to="`/bank/passages/${p.id}`" tabindex="-1">{{ p.title }}</RouterLink>
            </td>
            <td class="nowrap">{{ p.bank }}</td>
            <td class="source" :class="{ caution: !p.permission }">
              {{ [p.source, p.permission || 'permission not noted'].filter(Boolean).join('; ') }}
            </td>
            <td>{{ languageName(p.language) }}</td>
            <td class="num">{{ p.words }}</td>
            <td class="num">{{ p.readingGrade === undefined ? '' : tenths(p.readingGrade) }}</td>
            <td class="num double">{{ p.items }}</td>
          </tr>
        </tbody>
      </LedgerTable>
    </div>
  </div>
</template>

<style scoped>
.page {
  padding: 0 18px 40px;
}
.page > :first-child {
  width: 320px;
  margin-bottom: 10px;
}
.nowrap {
  white-space: nowrap;
}
.source {
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.caution {
  color: var(--resin);
}
</style>
