<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import BandSwatch from '@/parts/BandSwatch.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'
import { gradeName } from '@/contract/format'
import CutField from './CutField.vue'

/** Percent and points side by side for each band; either may be typed. Beside them what the cuts would do. */
const props = defineProps<{
  bands: Schemas['Band'][]
  cuts: Schemas['Cuts']
  outlook?: Schemas['Outlook']
  observed?: Schemas['Observed']
  /** What cuts were taken from. */
  sources?: Schemas['CutSourceTold'][]
}>()
const emit = defineEmits<{ set: [at: number, cut: Schemas['Cut']] }>()

const percent = (at: number) => {
  const set = props.bands[at]?.cut.percent
  const tenths = props.cuts.starts[at]?.percentTenths
  return set ?? (tenths === undefined ? undefined : tenths / 10)
}
/** The scores of a band, from the first to the last that is below the next band. */
const range = (at: number) => {
  const { starts, total, grain } = props.cuts
  const from = starts[at]?.raw
  const next = starts.slice(at + 1).find((s) => s.raw !== undefined)?.raw ?? total + grain
  const last = Math.round((Math.min(next, total + grain) - grain) * 100) / 100
  if (from === undefined || last < from) return 'no score'
  return from === last ? `${from}` : `${from} to ${last}`
}
/** There is another scale, into which scores of this form are converted. */
const scaled = computed(() => props.cuts.starts.some((s) => s.scale !== undefined))
const from = (band: string) => props.sources?.find((s) => s.band === band)
const share = (n: number) => `${(100 * n).toFixed(1)}%`
const outlook = computed(() => props.outlook?.bands)
const near = (at: number) => {
  const n = outlook.value?.[at]?.near
  return n === undefined || !props.outlook ? '' : Math.round(n * props.outlook.students).toLocaleString('en-US')
}
const whole = (n: number) => Math.round(n).toLocaleString('en-US')
</script>

<template>
  <LedgerTable label="Cuts on this form">
    <thead>
      <tr>
        <th>Band</th>
        <th class="num">Cut, percent</th>
        <th class="num">Cut, points of {{ cuts.total }}</th>
        <th v-if="scaled" class="num">Cut, scale score</th>
        <th class="num double">Scores in this band</th>
        <th class="num">Expected share</th>
        <th class="num">Students</th>
        <template v-if="observed">
          <th class="num double" title="What these cuts make of the scores that students got">Observed share</th>
          <th class="num">Students</th>
        </template>
        <th
          class="num"
          title="Students whose expected score is so near the cut that another day could put them on its other side"
        >
          Within 1 SE of the cut
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(s, at) in cuts.starts" :key="s.name">
        <td>
          <BandSwatch :at="at" :of="cuts.starts.length" />{{ s.name }}
          <RouterLink
            v-if="from(s.name)"
            class="from"
            :to="`/bands/official/${from(s.name)!.tableId}`"
            :title="`${from(s.name)!.officialBand} of ${from(s.name)!.year}, grade ${gradeName(from(s.name)!.grade)}: ${from(s.name)!.raw} of ${from(s.name)!.of} points`"
            >from {{ from(s.name)!.year }}</RouterLink
          >
        </td>
        <template v-if="at === 0">
          <td class="num zero">0</td>
          <td class="num zero">0</td>
          <td v-if="scaled" class="num zero">{{ s.scale }}</td>
        </template>
        <template v-else>
          <td class="num">
            <CutField
              :label="`Cut of ${s.name}, percent`"
              :value="percent(at)"
              :most="100"
              unit="percent"
              :strong="bands[at]?.cut.percent !== undefined"
              @set="(v) => emit('set', at, { percent: v })"
            />
          </td>
          <td class="num">
            <CutField
              :label="`Cut of ${s.name}, points`"
              :value="s.raw"
              unit="points"
              :strong="bands[at]?.cut.raw !== undefined"
              @set="(v) => emit('set', at, { raw: v, of: cuts.total })"
            />
          </td>
          <td v-if="scaled" class="num">
            <CutField
              :label="`Cut of ${s.name}, scale score`"
              :value="bands[at]?.cut.scale ?? s.scale"
              unit="the scale"
              :strong="bands[at]?.cut.scale !== undefined"
              @set="(v) => emit('set', at, { scale: v })"
            />
          </td>
        </template>
        <td class="num double">{{ range(at) }}</td>
        <td class="num">{{ outlook?.[at] ? share(outlook[at]!.share) : '–' }}</td>
        <td
          class="num"
          :title="
            outlook?.[at] ? `In 95 of 100 cases between ${whole(outlook[at]!.low)} and ${whole(outlook[at]!.high)}` : undefined
          "
        >
          {{ outlook?.[at] ? whole(outlook[at]!.count) : '–' }}
        </td>
        <template v-if="observed">
          <td class="num double">{{ share(observed.bands[at]?.share ?? 0) }}</td>
          <td class="num">{{ observed.bands[at]?.count.toLocaleString('en-US') }}</td>
        </template>
        <td class="num">{{ near(at) }}</td>
      </tr>
    </tbody>
    <tfoot v-if="props.outlook || observed">
      <tr>
        <th :colspan="scaled ? 4 : 3">All</th>
        <td class="double" />
        <td class="num">{{ props.outlook && '100.0%' }}</td>
        <td class="num">{{ props.outlook?.students.toLocaleString('en-US') }}</td>
        <template v-if="observed">
          <td class="num double">100.0%</td>
          <td class="num">{{ observed.students.toLocaleString('en-US') }}</td>
        </template>
        <td />
      </tr>
    </tfoot>
  </LedgerTable>
</template>

<style scoped>
.from {
  margin-left: 8px;
  font-size: 12px;
}
.zero {
  padding-right: 17px;
}
</style>
