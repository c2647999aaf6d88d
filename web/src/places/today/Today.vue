<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import OfferEntry from '@/places/bank/item/OfferEntry.vue'
import ReportEntry from '@/places/bank/item/ReportEntry.vue'
import DoorButtons from '@/places/rooms/DoorButtons.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { day, gradesName, moment, plural, windowOf } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as roomQueries from '@/queries/rooms'

const router = useRouter()
const { session, may } = useSession()
const today = useQuery({ ...roomQueries.today, refetchInterval: 10_000 })

const see = useMutation({
  mutationFn: (id: number) => call(api.DELETE('/notices/{id}', { params: { path: { id } } })),
  onSuccess: () => queries.invalidateQueries({ queryKey: roomQueries.today.queryKey }),
})

const retry = useMutation({
  mutationFn: () => call(api.POST('/mail/retry')),
  onSuccess: () => queries.invalidateQueries({ queryKey: roomQueries.today.queryKey }),
})

/** One line a distribution for coordinators; teachers see each of their sittings. */
interface Group {
  id: string
  title: string
  opens: string
  closes: string
  sittings: Schemas['Sitting'][]
}

const groups = computed(() => {
  const out = new Map<string, Group>()
  for (const s of today.data.value?.sittings ?? []) {
    const id = [s.distributionId, s.opensAt, s.closesAt].join(' ') // a wave or a makeup has a window of its own
    const g = out.get(id) ?? {
      id,
      title: s.title,
      opens: s.opensAt,
      closes: s.closesAt,
      sittings: [],
    }
    g.sittings.push(s)
    out.set(id, g)
  }
  return [...out.values()]
})

function doors(g: Group, door: string) {
  return g.sittings.filter((s) => s.door === door).length
}
const sum = (g: Group, of: 'seats' | 'begun' | 'done') => g.sittings.reduce((n, s) => n + s[of], 0)
const few = computed(() => (today.data.value?.sittings.length ?? 0) <= 8)
const doorTone = (door: string) => (door === 'open' ? 'go' : door === 'paused' ? 'caution' : 'quiet')
</script>

<template>
  <div class="page">
    <PageHead title="Today" :note="session ? day(new Date().toISOString()) : ''" />
    <Trouble :error="today.error.value" />

    <Note v-if="today.data.value?.mail">
      {{ plural(today.data.value.mail.waiting + today.data.value.mail.failed, 'message') }} could not be mailed
      {{ today.data.value.mail.failed ? 'and will not be tried again by itself' : 'so far and will be tried again' }}. On their
      page Today people have read them all the same. The mail server said: {{ today.data.value.mail.why }}
      <button type="button" class="link-button" :disabled="retry.isPending.value" @click="retry.mutate()">Try now</button>
    </Note>
    <Trouble :error="retry.error.value" />
    <section v-if="today.data.value?.notices.length" aria-labelledby="notices">
      <h2 id="notices">For you</h2>
      <ul class="notices">
        <li v-for="n in today.data.value.notices" :key="n.id">
          <RouterLink :to="n.path" @click="see.mutate(n.id)">{{ n.words }}</RouterLink>
          <span class="soft">{{ moment(n.at) }}</span>
          <button type="button" class="link-button" @click="see.mutate(n.id)">seen</button>
        </li>
      </ul>
    </section>

    <section v-if="today.data.value?.offers.length" aria-labelledby="offers">
      <h2 id="offers">Offered to your banks</h2>
      <OfferEntry v-for="o in today.data.value.offers" :key="o.id" :offer="o" />
    </section>

    <section v-if="today.data.value?.reports.length" aria-labelledby="reports">
      <h2 id="reports">Reports on your items</h2>
      <ReportEntry v-for="r in today.data.value.reports" :key="r.id" :report="r" named />
    </section>

    <section v-if="today.data.value" aria-labelledby="sittings">
      <h2 id="sittings">Sittings</h2>
      <Empty
        v-if="!groups.length"
        text="No window is open. Sittings appear here from the day an assessment is sent until its window ends."
      />
      <template v-for="g in groups" :key="g.id">
        <p class="title">
          <strong>{{ g.title }}</strong> <span class="soft">{{ windowOf(g.opens, g.closes) }}</span>
        </p>
        <LedgerTable :label="`Sittings of ${g.title}`" banded>
          <thead>
            <tr>
              <th>School</th>
              <th>Section</th>
              <th>Door</th>
              <th class="num">Students</th>
              <th class="num">Begun</th>
              <th class="num double">Handed in</th>
              <th v-if="few"><span class="out-of-sight">Door</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(s, i) in g.sittings" :key="s.id" :tabindex="i ? -1 : 0" @click="router.push(`/rooms/${s.id}`)">
              <td>{{ s.school }}</td>
              <td>
                <RouterLink :to="`/rooms/${s.id}`" tabindex="-1">{{ s.section }}</RouterLink>
              </td>
              <td><StateTag :state="s.door" :tone="doorTone(s.door)" /></td>
              <td class="num">{{ s.seats }}</td>
              <td class="num">{{ s.begun }}</td>
              <td class="num double">{{ s.done }}</td>
              <td v-if="few" class="num" @click.stop><DoorButtons :sitting="s" small /></td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <th colspan="2">{{ plural(g.sittings.length, 'sitting') }}</th>
              <td>{{ doors(g, 'open') }} open, {{ doors(g, 'waiting') }} waiting</td>
              <td class="num">{{ sum(g, 'seats') }}</td>
              <td class="num">{{ sum(g, 'begun') }}</td>
              <td class="num double">{{ sum(g, 'done') }}</td>
              <td v-if="few" />
            </tr>
          </tfoot>
        </LedgerTable>
      </template>
    </section>

    <div class="two">
      <section v-if="may('build') && today.data.value" aria-labelledby="drafts">
        <h2 id="drafts">Not sent yet</h2>
        <Empty v-if="!today.data.value.drafts.length" text="Nothing is unfinished. Start a new assessment under Assessments." />
        <LedgerTable v-else label="Assessments not sent yet">
          <thead>
            <tr>
              <th>Assessment</th>
              <th>State</th>
              <th class="num">Lines</th>
              <th>Last changed</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(a, i) in today.data.value.drafts"
              :key="a.id"
              :tabindex="i ? -1 : 0"
              @click="router.push(`/assessments/${a.id}`)"
            >
              <td class="cut">
                <RouterLink :to="`/assessments/${a.id}`" tabindex="-1">{{ a.title }}</RouterLink>
              </td>
              <td><StateTag :state="a.state" /></td>
              <td class="num">{{ a.lines }}</td>
              <td class="nowrap">{{ a.changedBy }}</td>
            </tr>
          </tbody>
        </LedgerTable>
      </section>
      <section v-if="may('readKeys') && today.data.value" aria-labelledby="read">
        <h2 id="read">Results</h2>
        <Empty v-if="!today.data.value.results.length" text="No results yet. They come in as students hand in." />
        <LedgerTable v-else label="Results">
          <thead>
            <tr>
              <th>Assessment</th>
              <th>For</th>
              <th class="num">Handed in</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(r, i) in today.data.value.results"
              :key="r.id"
              :tabindex="i ? -1 : 0"
              @click="router.push(`/results/${r.id}`)"
            >
              <td class="cut">
                <RouterLink :to="`/results/${r.id}`" tabindex="-1">{{ r.title }}</RouterLink>
              </td>
              <td class="nowrap">{{ gradesName(r.grades) }}</td>
              <td class="num">{{ r.scored + r.waiting }} of {{ r.seats }}</td>
            </tr>
          </tbody>
        </LedgerTable>
      </section>
    </div>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
section {
  margin-bottom: 22px;
}
h2 {
  margin-bottom: 6px;
}
.title {
  margin: 10px 0 4px;
}
.notices {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1.5px solid var(--ink);
}
.notices li {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 32px;
  border-bottom: 1px solid var(--rule);
}
.notices a {
  flex: 1;
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 32px;
}
.nowrap {
  white-space: nowrap;
}
</style>
