<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import DifficultyBar from '@/parts/DifficultyBar.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { day, gradeName, gradesName } from '@/contract/format'
import { useSession } from '@/contract/session'

/** Where an item is and was used, how it worked there, and which grades have seen it. */
const props = defineProps<{ id: number }>()
const { may } = useSession()
const uses = useQuery({
  queryKey: ['item-uses', computed(() => props.id)],
  queryFn: () => call(api.GET('/items/{id}/uses', { params: { path: { id: props.id } } })),
})
const rows = computed(() => uses.data.value?.uses ?? [])

function worked(u: Schemas['ItemUse']): string {
  if (u.waits) return 'waits for readers'
  if (!u.worked) return ''
  return u.worked.difficulty < 0 ? 'fewer than 10' : ''
}
function discrimination(u: Schemas['ItemUse']): string {
  const d = u.worked?.discrimination
  return d === undefined ? '' : d.toFixed(2).replace(/^(-?)0\./, '$1.')
}
</script>

<template>
  <section aria-labelledby="uses">
    <h2 id="uses">Where it is used</h2>
    <Trouble :error="uses.error.value" />
    <p v-if="uses.data.value && !rows.length" class="soft">On no assessment yet.</p>
    <LedgerTable v-if="rows.length" label="Where it is used">
      <thead>
        <tr>
          <th>Assessment</th>
          <th>Line</th>
          <th class="num">Version</th>
          <th class="num double">Students</th>
          <th>p</th>
          <th class="num" title="Correlation of the item’s credit with the rest of the score">Discr.</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(u, n) in rows" :key="n">
          <td class="cut">
            <RouterLink v-if="u.mine && may('build')" :to="`/assessments/${u.assessmentId}/lines`">{{ u.title }}</RouterLink>
            <template v-else>{{ u.title }}</template>
            <span class="soft when">
              {{ u.grades.length ? gradesName(u.grades) : '' }},
              {{ u.firstOpens ? day(u.firstOpens) : u.sealedAt ? `sealed ${day(u.sealedAt)}` : 'draft' }}</span
            >
          </td>
          <td class="num">{{ u.line }}</td>
          <td class="num">{{ u.version }}</td>
          <td class="num double">{{ u.students || '' }}</td>
          <td class="nowrap">
            <DifficultyBar v-if="!worked(u) && u.worked" :value="u.worked.difficulty" /><span v-else class="soft">{{
              worked(u)
            }}</span>
          </td>
          <td class="num">{{ discrimination(u) }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <p v-if="uses.data.value?.seen.length">
      Seen by
      <template v-for="(s, n) in uses.data.value.seen" :key="`${s.year}${s.grade}`"
        >{{ n ? ', ' : '' }}<strong>{{ s.students }}</strong> of grade {{ gradeName(s.grade) }} in {{ s.year }}</template
      >.
    </p>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
h2 {
  margin-bottom: 6px;
}
.nowrap {
  white-space: nowrap;
}
.when {
  margin-left: 8px;
}
</style>
