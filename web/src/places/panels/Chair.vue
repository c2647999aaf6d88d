<script setup lang="ts">
import { IconDownload } from '@tabler/icons-vue'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import PersonPicker from '@/parts/PersonPicker.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import type { Schemas } from '@/contract/client'
import { day, plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import JudgeLeaves from './JudgeLeaves.vue'
import LineSpread from './LineSpread.vue'
import RoundResult from './RoundResult.vue'
import TakeCuts from './TakeCuts.vue'
import { usePanel } from './usePanel'
import { formOf, methods } from './words'

/** A panel as its chair leads it: who is how far, what came of each round, and where the cuts go. */
const id = Number(useRoute().params.id)
const { query, act, rounds, newest, invite, move, openRound, moveRound, end } = usePanel(id)
const { session } = useSession()
const p = computed(() => query.data.value)
useCrumb(() => p.value?.panel.title)
const lead = computed(() => !!p.value?.mayLead && !p.value.panel.ended)

const looked = ref<number>()
/** The round that is looked at: the one that was chosen, else the newest. */
const round = computed(() => rounds.value.find((r) => r.number === looked.value) ?? newest.value)
const leaving = ref<Schemas['PanelJudge']>()
const taking = ref(false)
const inviting = ref(false)
const stateOf = (r: Schemas['PanelRound']) => (!r.closedAt ? 'open' : r.feedbackAt ? 'shown' : 'closed')
const judging = computed(() => p.value?.judges.some((j) => j.personId === session.value?.personId))
function standing(s: Schemas['PanelStanding']) {
  if (s.done) return 'done'
  return s.given ? `${s.given} of ${s.of}` : '–'
}
</script>

<template>
  <div class="page">
    <Trouble :error="query.error.value" />
    <template v-if="p">
      <PageHead :title="p.panel.title">
        <template #note>
          {{ methods[p.panel.method].name }} · {{ formOf(p.panel.edition) }}, {{ plural(p.lines.length, 'line') }},
          {{ p.total }} points · led by {{ p.panel.chair }} since {{ day(p.panel.at) }}
          <StateTag v-if="p.panel.ended" state="ended" />
        </template>
        <RouterLink to="/bands/panels">Panels</RouterLink>
        <RouterLink v-if="judging" :to="`/panels/${id}`">Your own ratings</RouterLink>
        <template v-if="rounds.length">
          <a class="as-link" :href="`/api/panels/${id}/report.pdf`" :download="`${p.panel.title}, panel.pdf`"
            ><IconDownload :size="15" aria-hidden="true" /> Report as PDF</a
          >
          <a class="as-link" :href="`/api/panels/${id}/report.csv`" :download="`${p.panel.title}, panel.csv`"
            ><IconDownload :size="15" aria-hidden="true" /> Export as CSV</a
          >
        </template>
        <template v-if="lead">
          <Button
            v-if="newest && !newest.closedAt"
            :label="`Close ${newest.name.toLowerCase()}`"
            :disabled="act.isPending.value"
            @click="moveRound(newest.number, 'close')"
          />
          <template v-else>
            <Button
              v-if="newest && !newest.feedbackAt"
              label="Open it again"
              severity="secondary"
              outlined
              @click="moveRound(newest.number, 'open')"
            />
            <Button
              v-if="newest && !newest.feedbackAt"
              label="Show judges what came of it"
              @click="moveRound(newest.number, 'feedback')"
            />
            <Button
              v-if="!newest"
              label="Open a training round"
              severity="secondary"
              outlined
              :disabled="!p.judges.length"
              @click="openRound(true)"
            />
            <Button
              :label="newest && !newest.training ? 'Open the next round' : 'Open round 1'"
              :severity="newest && !newest.feedbackAt ? 'secondary' : undefined"
              :outlined="!!newest && !newest.feedbackAt"
              :disabled="!p.judges.length"
              @click="openRound(false)"
            />
            <Button v-if="newest && !newest.training" label="End the panel" severity="secondary" outlined @click="end(true)" />
          </template>
        </template>
        <Button v-else-if="p.mayLead" label="Go on with the panel" severity="secondary" outlined @click="end(false)" />
      </PageHead>
      <Trouble :error="act.error.value" />
      <div class="sheet">
        <section aria-labelledby="judges">
          <div class="top">
            <h2 id="judges">Judges</h2>
            <button v-if="lead" type="button" class="link-button" @click="inviting = !inviting">Invite a judge</button>
          </div>
          <PersonPicker
            v-if="inviting && lead"
            label="Who"
            :without="p.judges.map((j) => j.personId)"
            @pick="(who) => invite([who.id])"
          />
          <div class="rows">
            <LedgerTable label="Judges and rounds" banded>
              <thead>
                <tr>
                  <th class="num">No.</th>
                  <th>Judge</th>
                  <th v-for="r in rounds" :key="r.number" class="num" :class="{ double: r === rounds[0] }">
                    <button type="button" class="link-button" :aria-pressed="r === round" @click="looked = r.number">
                      {{ r.training ? 'Training' : r.name }}
                    </button>
                  </th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="(j, i) in p.judges" :key="j.personId">
                  <td class="num">{{ j.number }}</td>
                  <td class="who">
                    {{ j.name }}
                    <template v-if="j.leftAt">
                      <StateTag state="left" :title="j.leftWhy" />
                      <button v-if="lead" type="button" class="link-button" @click="move(j.personId, false, '')">
                        let go on
                      </button>
                    </template>
                    <button
                      v-else-if="lead"
                      type="button"
                      class="link-button quiet"
                      :aria-label="`${j.name} leaves`"
                      @click="leaving = j"
                    >
                      leaves
                    </button>
                  </td>
                  <td v-for="r in rounds" :key="r.number" class="num" :class="{ double: r === rounds[0] }">
                    {{ standing(r.works[i]!) }}
                  </td>
                </tr>
              </tbody>
              <tfoot v-if="rounds.length">
                <tr>
                  <th colspan="2">State</th>
                  <td v-for="r in rounds" :key="r.number" class="num" :class="{ double: r === rounds[0] }">{{ stateOf(r) }}</td>
                </tr>
              </tfoot>
            </LedgerTable>
          </div>
        </section>
        <section v-if="round" aria-labelledby="round">
          <div class="top">
            <h2 id="round">{{ round.name }}</h2>
            <Button
              v-if="p.mayLead && round.closedAt && !round.training && round.result"
              label="Take these cuts…"
              size="small"
              @click="taking = true"
            />
          </div>
          <p v-if="round.training" class="soft">It is for practice: no cut comes of it.</p>
          <Note v-if="round.remarks.length">
            <div v-for="(r, i) in round.remarks" :key="i">{{ r }}</div>
          </Note>
          <RoundResult v-if="round.result" :result="round.result" :method="p.panel.method" :total="p.total" />
          <p v-else class="soft">Nobody has given all that is asked yet.</p>
          <p v-if="p.because && round.result" class="soft">{{ p.because }}</p>
        </section>
        <Empty
          v-else
          :text="
            p.judges.length
              ? 'Open a training round for practice, or round 1. Judges find the panel on Today.'
              : 'Invite judges first. Each works on their own screen.'
          "
        />
      </div>
      <LineSpread
        v-if="round?.result?.lines.length"
        :lines="round.result.lines"
        :cuts="p.cuts"
        :names="p.lines.map((l) => l.identifier)"
      />
      <section v-if="p.notes.length" aria-labelledby="notes">
        <h2 id="notes">What judges noted</h2>
        <ul class="notes">
          <li v-for="(n, i) in p.notes" :key="i">
            <strong>{{ n.line ? `Line ${n.line}` : 'The whole' }}</strong>, judge {{ n.judge }}: {{ n.words }}
          </li>
        </ul>
      </section>
      <JudgeLeaves
        v-if="leaving"
        :name="leaving.name"
        @close="leaving = undefined"
        @leave="(why) => (move(leaving!.personId, true, why), (leaving = undefined))"
      />
      <TakeCuts v-if="taking && round?.result" :panel="p" :round="round" @close="taking = false" />
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
  max-width: 1220px;
}
.sheet {
  display: grid;
  grid-template-columns: minmax(330px, 2fr) minmax(0, 3fr);
  gap: 30px;
  align-items: start;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 32px;
  margin-bottom: 6px;
}
h2 {
  margin: 0;
  font: 600 15px var(--sans);
}
.link-button[aria-pressed='true'] {
  font-weight: 700;
  text-decoration: none;
  color: var(--ink);
}
.rows {
  overflow-x: auto;
}
.who {
  white-space: nowrap;
}
.quiet {
  color: var(--ink-soft);
  font-size: 12px;
}
.as-link {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
.notes {
  padding-left: 18px;
}
@media (max-width: 860px) {
  .sheet {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
