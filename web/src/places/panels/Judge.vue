<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import { computed, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import { useScreenKeys } from '@/parts/keys'
import JudgeItem from './JudgeItem.vue'
import LineSpread from './LineSpread.vue'
import MarkTable from './MarkTable.vue'
import RatingTable from './RatingTable.vue'
import RoundResult from './RoundResult.vue'
import { none, useJudging } from './useJudging'

/** One judge's screen: what is asked, the item in view, and after a round the own place among the others. */
const id = Number(useRoute().params.id)
const j = useJudging(id)
const { asked, work, round, editable, told, marks, given, saved } = j
useCrumb(() => asked.data.value?.panel.title)
useScreenKeys([
  ['0 – 9, x', 'in tens: 0% to 90%, and 100%'],
  ['Enter, ↑ ↓', 'the next or the last line'],
  ['Tab', 'the next cut'],
  ['1 – 7', 'with ordered items: put the mark of that cut here'],
])
const tens = useLocalStorage('pine-ledger-panel-tens', true)
const line = ref(0)
const view = ref<'work' | 'told'>('work')
const rated = computed(() => asked.data.value?.cuts.map((_, c) => asked.data.value!.lines.map((_, l) => j.valueOf(c, l))) ?? [])
const marked = computed(() => asked.data.value?.cuts.map((_, c) => j.valueOf(c, 0)) ?? [])
/** Cuts whose value is no higher than that of the cut before. */
const turned = computed(() => {
  const a = asked.data.value
  if (!a) return []
  const sums = a.cuts.map((_, c) =>
    marks.value
      ? marked.value[c] === none
        ? NaN
        : a.booklet[marked.value[c]! - 1]!.location
      : rated.value[c]!.includes(none)
        ? NaN
        : rated.value[c]!.reduce((sum, share, l) => sum + share * a.lines[l]!.points, 0),
  )
  return a.cuts.filter((_, c) => c > 0 && sums[c]! <= sums[c - 1]!)
})
const still = computed(() => given.value.of - given.value.given)
</script>

<template>
  <div class="page">
    <Trouble :error="asked.error.value ?? work.error.value" />
    <template v-if="asked.data.value && work.data.value">
      <PageHead :title="asked.data.value.panel.title">
        <template #note>
          <template v-if="round"
            >{{ round.name }} · {{ given.given }} of {{ given.of }} given ·
            <span role="status">{{
              round.done ? 'You are done with this round' : round.closedAt ? 'closed' : saved
            }}</span></template
          >
          <template v-else
            >No round is open yet. This page shows it as soon as {{ asked.data.value.panel.chair }} opens one.</template
          >
        </template>
        <RouterLink to="/bands/panels">Panels</RouterLink>
        <SelectButton
          v-if="told?.result"
          v-model="view"
          :options="[
            { value: 'work', label: 'Your work' },
            { value: 'told', label: `What came of ${told.name.toLowerCase()}` },
          ]"
          option-label="label"
          option-value="value"
          :allow-empty="false"
          size="small"
          aria-label="Show"
        />
        <Button v-if="editable" label="I am done" :disabled="still > 0" @click="j.finish(true)" />
        <Button v-else-if="j.open.value" label="Go on with it" severity="secondary" outlined @click="j.finish(false)" />
      </PageHead>
      <Trouble :error="j.error.value" />
      <p v-if="work.data.value.left" class="resin">The chair noted that you left this panel. What you gave can be read.</p>
      <div v-if="view === 'told' && told?.result" class="told">
        <p v-if="told.result.cuts[0]?.own === undefined" class="resin">
          Your own work is not among these: you had not given all that was asked.
        </p>
        <p v-else class="soft">
          Each dot is a judge; the filled one is you. Names are not told. Think about what the others may have seen, then stay or
          change in the next round.
        </p>
        <RoundResult :result="told.result" :method="asked.data.value.panel.method" :total="asked.data.value.total" />
        <LineSpread
          v-if="told.result.lines.length"
          :lines="told.result.lines"
          :cuts="asked.data.value.cuts"
          :names="asked.data.value.lines.map((l) => l.identifier)"
          :own="told.ratings"
        />
      </div>
      <div v-else-if="round" class="work">
        <section aria-label="Your work">
          <p v-if="turned.length" class="resin">
            {{ turned.join(' and ') }}: no higher than the cut before. A student at a higher cut earns more.
          </p>
          <template v-if="marks">
            <p class="soft">
              From the easiest to the hardest. Mark for each cut the last item that a student just at it would get right with a
              chance of {{ Math.round(100 * asked.data.value.probability) }}%.
            </p>
            <MarkTable
              :asked="asked.data.value"
              :marks="marked"
              :disabled="!editable"
              :at="line"
              @look="(l) => (line = l)"
              @mark="(cut, place) => j.give(cut, 0, place)"
            />
          </template>
          <template v-else>
            <div class="how">
              <span class="soft">What share of a line’s points would a student just at the cut earn?</span>
              <SelectButton
                v-model="tens"
                :options="[
                  { value: true, label: 'Tens' },
                  { value: false, label: 'Hundredths' },
                ]"
                option-label="label"
                option-value="value"
                :allow-empty="false"
                size="small"
                aria-label="How shares are typed"
              />
            </div>
            <RatingTable
              :asked="asked.data.value"
              :rated="rated"
              :tens="tens"
              :disabled="!editable"
              :at="line"
              @look="(l) => (line = l)"
              @give="(cut, l, value) => j.give(cut, l, value)"
            />
          </template>
        </section>
        <JudgeItem
          :asked="asked.data.value"
          :line="line"
          :note="j.noteOf(line + 1)"
          @note="(words) => j.putNote(line + 1, words)"
        />
      </div>
      <Empty v-else text="Nothing is asked yet." />
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 24px;
  overflow: auto;
}
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(320px, 44%);
  gap: 26px;
  align-items: start;
}
.told {
  max-width: 860px;
}
.how {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 14px;
  margin-bottom: 8px;
}
@media (max-width: 860px) {
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
