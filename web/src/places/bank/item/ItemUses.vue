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
/** A mean square beyond these tells that an item does not work as the model says. */
const odd = (square: number) => square < 0.7 || square > 1.3
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
    <LedgerTable v-if="uses.data.value?.scale.length" label="On the scale of its subject" class="scale">
      <thead>
        <tr>
          <th>On the scale, version</th>
          <th class="num" title="0 is an item that half of all students get right; 1 more makes that about one in four">
            Difficulty, logits
          </th>
          <th class="num" title="Standard error">SE</th>
          <th class="num" title="Near 1 where the item works as the model says: by students near its difficulty">Infit</th>
          <th class="num" title="The same by all students, so that odd answers far from its difficulty weigh more">Outfit</th>
          <th class="num">Students</th>
          <th class="double">Since</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in uses.data.value.scale" :key="s.version">
          <td>{{ s.version }}</td>
          <td class="num">
            {{ s.b.toFixed(2) }}
            <span v-if="s.was !== undefined" class="resin">was {{ s.was.toFixed(2) }} last year</span>
          </td>
          <td class="num">{{ s.se.toFixed(2) }}</td>
          <td class="num" :class="{ resin: odd(s.infit) }">{{ s.infit.toFixed(2) }}</td>
          <td class="num" :class="{ resin: odd(s.outfit) }">{{ s.outfit.toFixed(2) }}</td>
          <td class="num">{{ s.n.toLocaleString('en-US') }}</td>
          <td class="double">{{ day(s.at) }}</td>
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
.scale {
  margin-top: 14px;
}
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
