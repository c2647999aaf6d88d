<script setup lang="ts">
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import StateTag from '@/parts/StateTag.vue'
import { useIntervalFn } from '@vueuse/core'
import { windowOf } from '@/contract/format'
import { useOpenSheet } from '@/places/assessments/sheet/open'

const { sheet, query } = useOpenSheet()
const router = useRouter()
useIntervalFn(() => query.refetch(), 8_000)
const tone = (door: string) => (door === 'open' ? 'go' : door === 'paused' ? 'caution' : 'quiet')
</script>

<template>
  <div class="page">
    <PageHead title="Rooms" note="One sitting for each section. Its door is its teacher's to open and close." />
    <Empty
      v-if="!sheet.sittings.length"
      text="Nothing has been sent yet. Each section that gets this assessment will have its room here."
    />
    <LedgerTable v-else label="Sittings" banded>
      <thead>
        <tr>
          <th>School</th>
          <th>Section</th>
          <th>Window</th>
          <th>Door</th>
          <th class="num">Students</th>
          <th class="num">Begun</th>
          <th class="num double">Handed in</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in sheet.sittings" :key="s.id" :tabindex="i ? -1 : 0" @click="router.push(`/rooms/${s.id}`)">
          <td>{{ s.school }}</td>
          <td>
            <RouterLink :to="`/rooms/${s.id}`" tabindex="-1">{{ s.section }}</RouterLink>
          </td>
          <td>{{ windowOf(s.opensAt, s.closesAt) }}</td>
          <td><StateTag :state="s.door" :tone="tone(s.door)" /></td>
          <td class="num">{{ s.seats }}</td>
          <td class="num">{{ s.begun }}</td>
          <td class="num double">{{ s.done }}</td>
        </tr>
      </tbody>
    </LedgerTable>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
</style>
