<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import Empty from '@/parts/Empty.vue'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { useScreenKeys } from '@/parts/keys'
import * as assessmentQueries from '@/queries/assess'
import { cautionText } from '@/places/bands/cautions'
import { whoLocked, whoseName } from '@/places/bands/whose'
import Basis from './Basis.vue'
import Beside from './Beside.vue'
import BySchool from './BySchool.vue'
import Calibrate from './Calibrate.vue'
import type { Schemas } from '@/contract/client'
import { gradeName } from '@/contract/format'
import CutsPicture from './CutsPicture.vue'
import CutsOfRecord from './CutsOfRecord.vue'
import CutsTable from './CutsTable.vue'
import Mastery from './Mastery.vue'
import NearCuts from './NearCuts.vue'
import Reported from './Reported.vue'
import TwinCuts from './TwinCuts.vue'
import ScaleOf from './ScaleOf.vue'
import RecutPanel from './RecutPanel.vue'
import { useCuts } from './useCuts'
import { useCutsHistory } from './useRecut'
import { useOpenSheet } from '@/places/assessments/sheet/open'

const { sheet, editable, kept, error, chooseBands } = useOpenSheet()
const {
  bands,
  cuts,
  weighed,
  assumed,
  forecast,
  school,
  sections,
  other,
  beside,
  setCut,
  rule,
  setRule,
  cancel,
  inParts,
  roundUp,
  before,
  use,
  useSet,
  undo,
} = useCuts()
const history = useCutsHistory(
  () => sheet.value.id,
  () => !editable.value && !!sheet.value.bandSet,
)
const past = computed(() => history.data.value?.versions ?? [])
const changing = ref(false)
const sets = useQuery(assessmentQueries.bandSetsFor(computed(() => sheet.value.id)))
/** Sets that fit come first, each with why; the nearest is proposed. */
const offered = computed(() => {
  const own = sheet.value.bandSet
  const listed = (sets.data.value ?? [])
    .filter((s) => !s.least && (!s.retired || s.id === own?.id))
    .map((s) => ({ value: s.id, label: s.fits ? `${s.name} (${s.why})` : s.name }))
  // The set of one person stands where that person chose it, and is offered to nobody else.
  return own && !listed.some((s) => s.value === own.id) ? [{ value: own.id, label: own.name }, ...listed] : listed
})
const others = computed(() => (sets.data.value ?? []).filter((s) => !s.least && !s.retired && s.id !== sheet.value.bandSet?.id))
const proposed = computed(() => sets.data.value?.find((s) => s.fits && !s.retired && !s.least))
type Rule = Schemas['BandSet']['rule']
const rules: { value: Rule; label: string }[] = [
  { value: 'atLeast', label: 'smallest score of at least the percent' },
  { value: 'nearest', label: 'score nearest to the percent' },
]
useScreenKeys([
  ['← →', 'on a cut: from score to score; with Shift by a point'],
  ['o', 'on a cut: the nearest official one in its place'],
])
function takeNearest(at: number) {
  const off = forecast.data.value?.off.find((o) => o.band === bands.value[at]?.name)
  if (off?.nearest[0]) takeOfficial(off.band, off.nearest[0])
}
function takeOfficial(band: string, c: Schemas['OfficialChoice']) {
  setCut(
    bands.value.findIndex((b) => b.name === band),
    c.cut,
  )
}
</script>

<template>
  <div class="page">
    <PageHead title="Cuts">
      <template #note>
        {{ kept
        }}<template v-if="sheet.bandSet">
          · {{ sheet.bandSet.own ? 'cuts of its own, in place of' : 'the cuts of' }}
          <RouterLink
            v-if="sets.data.value?.some((s) => s.id === sheet.bandSet?.id)"
            :to="{ path: '/bands', query: { set: sheet.bandSet.id } }"
            >{{ sheet.bandSet.name }}</RouterLink
          >
          <template v-else>{{ sheet.bandSet.name }} of {{ whoseName(sheet.bandSet) }}</template>
          <template v-if="sheet.bandSet.lockedBy"> · locked by {{ whoLocked(sheet.bandSet) }}</template>
        </template>
      </template>
      <Choose
        :model-value="sheet.bandSet?.id"
        :options="offered"
        placeholder="Choose a band set"
        aria-label="Band set"
        :disabled="!editable"
        @update:model-value="(id?: number) => id && chooseBands(id)"
      />
      <Choose
        v-if="sheet.bandSet && sheet.cuts"
        :model-value="rule"
        :options="rules"
        aria-label="A percent becomes"
        :disabled="!editable"
        @update:model-value="(to?: Rule) => to && setRule(to)"
      />
      <Button v-if="before" label="Undo" severity="secondary" outlined @click="undo" />
      <Button
        v-else-if="sheet.bandSet?.own && !weighed && editable"
        label="Use the set’s cuts"
        severity="secondary"
        outlined
        @click="useSet"
      />
      <Button v-if="weighed" label="Cancel" severity="secondary" outlined @click="cancel" />
      <Button v-if="editable && sheet.cuts" label="Use these cuts" :disabled="!weighed" @click="use" />
      <Button v-if="history.data.value?.mayChange" label="Change the cuts…" :disabled="!weighed" @click="changing = true" />
    </PageHead>
    <Trouble :error="error ?? forecast.error.value" />
    <Empty v-if="!sheet.bandSet" text="A band set says where each performance band begins. Choose one, or make one under Bands.">
      <Button
        v-if="proposed && editable"
        :label="`Use ${proposed.name}`"
        :title="`It is ${proposed.why}`"
        @click="chooseBands(proposed.id)"
      />
      <RouterLink to="/bands">To the band sets</RouterLink>
    </Empty>
    <Empty v-else-if="sheet.cutsFault" :text="`The cuts cannot be shown yet. ${sheet.cutsFault}`" />
    <template v-else-if="cuts">
      <Note v-if="sheet.newerBands && sheet.bandSet">
        <strong class="resin">{{ sheet.bandSet.changedBy }} changed {{ sheet.bandSet.name }}.</strong>
        {{ sheet.newerBands.join(' ') }}
        <button v-if="editable" type="button" class="link-button" @click="chooseBands(sheet.bandSet.id)">
          Take the newer cuts
        </button>
      </Note>
      <div class="weighed">
        <section aria-labelledby="expected">
          <h2 id="expected">
            {{ forecast.data.value?.scores ? 'Expected students at each score' : 'Scores of this form' }}
            <span class="soft">drag a cut, move it with the arrow keys, or type it below</span>
          </h2>
          <CutsPicture
            :cuts="cuts"
            :scores="forecast.data.value?.scores ?? []"
            :outlook="forecast.data.value?.all"
            @move="(at, raw) => setCut(at, { raw, of: cuts!.total })"
            @official="takeNearest"
          />
        </section>
        <BySchool
          v-if="forecast.data.value?.schools && forecast.data.value.all"
          :schools="forecast.data.value.schools"
          :all="forecast.data.value.all"
          :observed="forecast.data.value.observedSchools"
          :opened="school"
          :sections="sections.data.value"
          @open="(id) => (school = id)"
        />
      </div>
      <p v-if="weighed && !editable" class="soft">
        These cuts are only weighed: the results keep theirs{{
          history.data.value?.mayChange ? ' until you change them, with a reason' : ''
        }}.
      </p>
      <CutsTable
        :bands="bands"
        :cuts="cuts"
        :outlook="forecast.data.value?.all"
        :observed="forecast.data.value?.observed"
        :sources="forecast.data.value?.sources ?? []"
        @set="setCut"
      />
      <Note v-for="(c, i) in cuts.cautions" :key="i">
        <strong class="resin">{{ c.bands.join(' and ') }}.</strong> {{ cautionText(c, cuts) }}
      </Note>
      <Note v-if="inParts.length">
        Some bands begin at parts of points: {{ inParts.map((p) => `${p.name} at ${p.raw}`).join(', ') }}.
        <button type="button" class="link-button" @click="roundUp">Round up to {{ inParts.map((p) => p.up).join(', ') }}</button>
      </Note>
      <Note v-if="forecast.data.value?.off.length">
        <div v-for="o in forecast.data.value.off" :key="o.band" class="off">
          <strong class="resin">{{ o.band }} begins at {{ o.raw }}, which equals nothing official.</strong>
          <span v-for="c in o.nearest" :key="c.here">
            <RouterLink :to="`/bands/official/${c.tableId}`"
              >{{ c.band }} of {{ c.year }}, grade {{ gradeName(c.grade) }}</RouterLink
            >
            is {{ c.raw }} of {{ c.of }} points, {{ c.percent }}%; here that is {{ c.here }}.
            <button type="button" class="link-button" @click="takeOfficial(o.band, c)">Take {{ c.here }}</button>
          </span>
        </div>
      </Note>
      <Note v-if="forecast.data.value?.because">{{ forecast.data.value.because }}</Note>
      <template v-if="forecast.data.value">
        <p v-if="forecast.data.value.all" class="soft">
          With these cuts {{ Math.round(100 * forecast.data.value.all.accuracy) }}% of students get the band of their expected
          score, and {{ Math.round(100 * forecast.data.value.all.consistency) }}% would get the same band on another day.
        </p>
        <Basis :forecast="forecast.data.value" :assumed="assumed" @assume="(a) => (assumed = a)">
          <Calibrate :subject="sheet.outline.subject" @done="forecast.refetch()" />
        </Basis>
      </template>
      <Beside
        v-if="forecast.data.value"
        :sets="others"
        :other="other"
        :forecast="beside.data.value"
        :error="beside.error.value"
        @choose="(s) => (other = s)"
      />
      <NearCuts v-if="forecast.data.value?.observed" :assessment="sheet.id" :stamp="past.length" />
      <CutsOfRecord v-if="history.data.value" :history="history.data.value" @weigh="(b) => (weighed = b)" />
      <p class="soft">Scores on this form move in steps of {{ cuts.grain }}. A cut belongs to the band that it begins.</p>
    </template>
    <TwinCuts v-if="sheet.forms.length > 1 && sheet.cuts" />
    <ScaleOf v-if="sheet.lines.length && sheet.bandSet" />
    <Reported v-if="sheet.lines.length" />
    <Mastery v-if="sets.data.value" :sets="sets.data.value" />
    <RecutPanel
      v-if="changing && weighed"
      :assessment="sheet.id"
      :bands="weighed"
      :from="past.at(-1)?.id ?? 0"
      @close="changing = false"
      @done="((changing = false), cancel())"
    />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
  max-width: 1180px;
}
.weighed {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(280px, 380px);
  gap: 28px;
  align-items: start;
  margin-bottom: 14px;
}
h2 {
  margin: 0;
  font: 600 14px var(--sans);
}
.off {
  display: flex;
  flex-wrap: wrap;
  column-gap: 8px;
}
h2 .soft {
  font-weight: 400;
  margin-left: 8px;
}
@media (max-width: 860px) {
  .weighed {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
