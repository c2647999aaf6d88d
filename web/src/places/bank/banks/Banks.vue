<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { type Schemas } from '@/contract/client'
import { useSession } from '@/contract/session'
import * as bankQueries from '@/queries/bank'
import BankTabs from '../BankTabs.vue'
import BankPanel from './BankPanel.vue'
import { kindOf } from './kinds'

/** The banks open to one, whose each is, and what one may do in it. */
const { may } = useSession()
const banks = useQuery({ ...bankQueries.banks, staleTime: 0 })
const open = ref<Schemas['Bank'] | 'new'>()

function terms(b: Schemas['Bank']): string {
  const out = []
  if (b.noCopy) out.push('no copies')
  if (b.noPrint) out.push('no printing')
  return out.join(', ') || 'copies and printing allowed'
}
function mine(b: Schemas['Bank']): string {
  if (b.kind === 'own') return 'yours alone'
  if (b.kind === 'given') return b.standing === 'keeper' ? 'you set its terms' : 'you read it'
  return { keeper: 'you keep it', writer: 'you write in it', reader: 'you read it' }[b.standing]
}
</script>

<template>
  <div>
    <BankTabs>
      <Button v-if="may('build')" label="Create a bank" size="small" @click="open = 'new'" />
    </BankTabs>
    <div class="page">
      <Trouble :error="banks.error.value" />
      <LedgerTable v-if="banks.data.value" label="Banks" banded>
        <thead>
          <tr>
            <th>Bank</th>
            <th>Whose</th>
            <th>You</th>
            <th>Terms</th>
            <th class="num double">Items</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(b, i) in banks.data.value" :key="b.id" :tabindex="i ? -1 : 0" @click="open = b">
            <td class="cut">
              <strong>{{ b.name }}</strong> <span class="soft">{{ b.about }}</span>
            </td>
            <td class="nowrap">{{ b.school || kindOf[b.kind] }}</td>
            <td class="nowrap">{{ mine(b) }}</td>
            <td class="nowrap">{{ terms(b) }}</td>
            <td class="num double">
              <RouterLink :to="{ path: '/bank', query: { bank: b.name } }" tabindex="-1" @click.stop>{{ b.items }}</RouterLink>
            </td>
          </tr>
        </tbody>
      </LedgerTable>
    </div>
    <BankPanel
      v-if="open"
      :key="open === 'new' ? 0 : open.id"
      :bank="open === 'new' ? undefined : open"
      @close="open = undefined"
    />
  </div>
</template>

<style scoped>
.page {
  padding: 0 18px 40px;
}
.nowrap {
  white-space: nowrap;
}
</style>
