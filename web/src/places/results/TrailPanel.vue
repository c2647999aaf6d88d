<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref, watch } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { moment, tenths } from '@/contract/format'
import * as supportQueries from '@/queries/supports'
import ReportPanel from '@/places/bank/item/ReportPanel.vue'

/** Where a score comes from: response, key, rule, points, credit; total, cut, band. */
const props = defineProps<{ distribution: number; attempt: number; line?: number }>()
const emit = defineEmits<{ close: [] }>()

const query = useQuery({
  queryKey: ['trail', computed(() => props.distribution), computed(() => props.attempt)],
  queryFn: () =>
    call(api.GET('/results/{id}/scores/{attempt}', { params: { path: { id: props.distribution, attempt: props.attempt } } })),
})
const t = computed(() => query.data.value)
const { said } = supportQueries.useSaid(() => !!t.value?.supports.length)
const reporting = ref<Schemas['TrailLine']>()
const reported = ref<number>()
const open = ref<number>()
watch(
  () => props.line,
  (now) => (open.value = now),
  { immediate: true },
)
function turn(line: number) {
  open.value = open.value === line ? undefined : line
}
watch([open, t], async () => {
  await nextTick()
  document.getElementById(`trail-${open.value}`)?.scrollIntoView({ block: 'nearest' })
})
/** How a scoring came to be. */
const scoredBy: Record<Schemas['TrailScoring']['kind'], string> = {
  machine: 'scored at hand-in',
  reader: 'scored by a reader',
  're-score': 'scored again',
  late: 'scored with late answers',
  're-cut': 'other cuts',
}
const start = computed(() => (t.value && t.value.band >= 0 ? t.value.head.cuts?.starts[t.value.band] : undefined))
</script>

<template>
  <SidePanel title="Trail of a score" width="max(500px, 38vw)" @close="emit('close')">
    <Trouble :error="query.error.value" />
    <template v-if="t">
      <p>
        <strong>{{ t.student }}</strong> <span class="mono soft">{{ t.number }}</span><br />
        <span class="soft">{{ t.school }}, {{ t.section }}. Begun {{ moment(t.startedAt) }}.</span>
      </p>
      <p class="sum">
        <template v-if="t.final"
          ><strong>{{ t.raw }} of {{ t.head.total }} points</strong>, {{ tenths(t.percentTenths) }}%{{
            `${t.scale === undefined ? '' : `, ${t.scale} on the scale`}${t.reported ? `, reported as ${t.reported}` : ''}`
          }}<template v-if="start"
            >: <strong>{{ start.name }}</strong>, which begins at {{ start.raw }} ({{ t.head.bandSet }})</template
          >.
        </template>
        <template v-else
          ><strong>Not scored yet</strong>: a reader has not scored all of it yet. So far {{ t.raw }} points from the lines that
          are scored.
        </template>
        <span class="soft"
          >{{ t.final ? `${t.why} ` : '' }}Computed from edition {{ t.head.edition }}, sealed as
          <span class="mono">{{ t.head.fingerprint.slice(0, 16) }}</span>.</span
        >
      </p>
      <p v-if="t.apart" class="resin">
        It does not compare with others: a support broke what is measured, with a coordinator’s reason. It is in no summary.
      </p>
      <p v-if="t.supports.length" class="soft">Worked with {{ t.supports.map(said).join(', ') }}.</p>
      <ul v-if="t.scorings.length > 1" class="scorings" aria-label="Scorings, the oldest first">
        <li v-for="(s, i) in t.scorings" :key="i">
          {{ moment(s.at) }}: {{ scoredBy[s.kind] }}, {{ s.raw }} points<template v-if="s.band >= 0"
            >, {{ t.head.cuts?.starts[s.band]?.name }}<template v-if="s.cut !== undefined"> from {{ s.cut }}</template></template
          >{{ s.final ? '' : ', not scored in full' }}
        </li>
      </ul>
      <LedgerTable label="Lines of this score">
        <thead>
          <tr>
            <th class="num">#</th>
            <th>Answer</th>
            <th>Key</th>
            <th>Outcome</th>
            <th class="num double">Credit</th>
          </tr>
        </thead>
        <tbody v-for="l in t.lines" :key="l.line.number">
          <tr :id="`trail-${l.line.number}`" :aria-selected="open === l.line.number" @click="turn(l.line.number)">
            <td class="num">
              <button
                type="button"
                class="link-button"
                :aria-expanded="open === l.line.number"
                :aria-label="`Line ${l.line.number}, why`"
                @click.stop="turn(l.line.number)"
              >
                {{ l.line.number }}
              </button>
            </td>
            <td>{{ l.response.join(', ') || '–' }}</td>
            <td>{{ l.line.key }}</td>
            <td>{{ l.outcome === 'unread' ? 'not scored yet' : l.outcome.replace('-', ' ') }}</td>
            <td class="num double">{{ l.outcome === 'unread' ? '–' : l.credit }} of {{ l.line.points }}</td>
          </tr>
          <tr v-if="open === l.line.number">
            <td />
            <td colspan="4" class="why">
              <p>{{ l.line.stem }}</p>
              <p>
                {{ l.why }} {{ l.credit }} of {{ l.line.points }} {{ l.line.points === 1 ? 'point' : 'points' }},
                {{ l.rule.replaceAll('-', ' ') }}.
              </p>
              <p class="soft">
                Item <span class="mono">{{ l.line.identifier }}</span>, version {{ l.version
                }}<template v-if="l.line.standards.length">, {{ l.line.standards.join(', ') }}</template
                ><template v-if="l.savedAt">. Saved {{ moment(l.savedAt) }}</template
                >.
                <button type="button" class="link-button" @click="reporting = l">report the item</button>
              </p>
              <p v-if="reported === l.line.itemId" role="status">Reported. You are told on Today what came of it.</p>
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td />
            <th colspan="3">{{ t.final ? 'Total' : 'So far' }}</th>
            <td class="num double">{{ t.raw }} of {{ t.head.total }}</td>
          </tr>
        </tfoot>
      </LedgerTable>
    </template>
    <ReportPanel
      v-if="reporting"
      :id="reporting.line.itemId"
      :version="reporting.version"
      :title="reporting.line.identifier"
      @close="reporting = undefined"
      @done="((reported = reporting.line.itemId), (reporting = undefined))"
    />
  </SidePanel>
</template>

<style scoped>
.sum {
  border-left: 3px solid var(--pine);
  padding-left: 10px;
}
.scorings {
  margin: 0 0 10px;
  padding-left: 18px;
  color: var(--ink-soft);
}
.why {
  padding: 8px 8px 4px;
  background: var(--tint);
}
</style>
