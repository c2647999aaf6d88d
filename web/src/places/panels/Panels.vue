<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'
import { day, plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as panelQueries from '@/queries/panels'
import BeginPanel from './BeginPanel.vue'
import { formOf, methods } from './words'

/** Panels of judges who say where cuts lie. */
const router = useRouter()
const { may } = useSession()
const list = useQuery(panelQueries.panels)
const beginning = ref(false)
/** A judge goes to work; who leads or looks on sees how far it is. */
const pathOf = (p: Schemas['PanelListed']) => (p.judging && !p.chairs ? `/panels/${p.id}` : `/bands/panels/${p.id}`)
</script>

<template>
  <div class="page">
    <PageHead title="Panels" note="Judges say, round by round, where cuts lie">
      <RouterLink v-if="may('build')" to="/bands">Band sets</RouterLink>
      <Button v-if="may('build')" label="Begin a panel" @click="beginning = true" />
    </PageHead>
    <Trouble :error="list.error.value" />
    <Empty
      v-if="list.data.value && !list.data.value.length"
      text="A panel is a group of teachers who judge the lines of an assessment for students just at each cut. What they agree on can become the cuts of a band set."
    >
      <Button v-if="may('build')" label="Begin a panel" size="small" @click="beginning = true" />
    </Empty>
    <LedgerTable v-else label="Panels" banded>
      <thead>
        <tr>
          <th>Panel</th>
          <th>Of</th>
          <th>How</th>
          <th>Led by</th>
          <th>Since</th>
          <th class="num double">Judges</th>
          <th class="num">Rounds</th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(p, i) in list.data.value" :key="p.id" :tabindex="i ? -1 : 0" @click="router.push(pathOf(p))">
          <td>
            <strong>{{ p.title }}</strong>
          </td>
          <td>{{ formOf(p.edition) }}</td>
          <td>{{ methods[p.method].name }}</td>
          <td>{{ p.chair }}</td>
          <td>{{ day(p.at) }}</td>
          <td class="num double">{{ p.judges }}</td>
          <td class="num" :title="plural(p.rounds, 'round')">{{ p.rounds }}</td>
          <td>
            <StateTag v-if="p.ended" state="ended" />
            <StateTag v-else :state="p.judging ? 'you judge' : 'under way'" tone="go" />
          </td>
        </tr>
      </tbody>
    </LedgerTable>
    <BeginPanel v-if="beginning" @close="beginning = false" @begun="(id) => router.push(`/bands/panels/${id}`)" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
tbody tr {
  cursor: pointer;
}
</style>
