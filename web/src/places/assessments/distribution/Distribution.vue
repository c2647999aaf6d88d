<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { plural, windowOf, zoneName } from '@/contract/format'
import { useKept } from '@/kept/useKept'
import Clash from '@/places/assessments/sheet/Clash.vue'
import LeaveOut from './LeaveOut.vue'
import TargetTree from './TargetTree.vue'
import { keepSheet } from '@/places/assessments/lines/lines'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** Whom it goes to, when, and for how long; then preflight, one look at everything, and send. */
const { sheet } = useOpenSheet()
const router = useRouter()
const key = computed(() => ['distribution', sheet.value.id])
const path = computed(() => ({ path: { id: sheet.value.id } }))
const query = useQuery({
  queryKey: key,
  queryFn: () => call(api.GET('/assessments/{id}/distribution', { params: path.value })),
  refetchOnWindowFocus: false,
})
const view = computed(() => query.data.value)

const { value, clash, error, state, keep, takeTheirs, keepMine } = useKept({
  name: `${sheet.value.id}/distribution`,
  there: () => {
    const { sections = [], leftOut = [], opens = '', closes = '', version = 0 } = view.value ?? {}
    return { value: { sections, leftOut, opens, closes }, version }
  },
  put: async (body, version) =>
    queries.setQueryData(
      key.value,
      await call(api.PUT('/assessments/{id}/distribution', { params: { ...path.value, header: { 'If-Match': version } }, body })),
    ),
  reread: query.refetch,
  editable: () => !!view.value && sheet.value.maySend,
})

/** What is out already, the first of it; the rest on asking. */
const shownOut = ref(8)
const out = computed(() => sheet.value.sittings.slice(0, shownOut.value))
const reviewing = ref(false)
const opened = ref<Schemas['Section']>()
const reasons = ref<Record<string, string>>({})

const stops = computed(() => view.value?.findings.filter((f) => f.severity === 'stop') ?? [])
const cautions = computed(() => view.value?.findings.filter((f) => f.severity === 'caution') ?? [])
const ready = computed(() => !stops.value.length && cautions.value.every((c) => reasons.value[c.code]?.trim()))

async function review() {
  reviewing.value = await keep()
}
const send = useMutation({
  mutationFn: () =>
    call(
      api.POST('/assessments/{id}/distribution', {
        params: { ...path.value, header: { 'If-Match': view.value!.version } },
        body: { reasons: reasons.value },
      }),
    ),
  onSuccess: async (after) => {
    queries.removeQueries({ queryKey: key.value })
    keepSheet(after)
    await router.push(`/assessments/${sheet.value.id}/rooms`)
  },
})
const chosenSections = computed(() => view.value?.candidates.filter((c) => value.value.sections.includes(c.id)) ?? [])
const limit = computed(() => (view.value?.minutes ? `${plural(view.value.minutes, 'minute')} for each student` : 'No time limit'))
const schools = computed(() => new Set(chosenSections.value.map((c) => c.school)).size)
const local = (text: string) =>
  text
    ? new Date(`${text}Z`)
        .toLocaleString('en-US', {
          timeZone: 'UTC',
          weekday: 'short',
          month: 'short',
          day: 'numeric',
          year: 'numeric',
          hour: 'numeric',
          minute: '2-digit',
        })
        .replace(/ ([AP])M/, (_, l: string) => ` ${l.toLowerCase()}m`)
    : 'not set'
</script>

<template>
  <div class="page">
    <PageHead title="Distribution">
      <template #note
        >{{ state === 'Saved' ? 'Saved.' : `${state}.` }}
        {{ sheet.sittings.length ? `Already out to ${plural(sheet.sittings.length, 'section')}.` : '' }}</template
      >
      <template v-if="view && sheet.maySend">
        <Button v-if="reviewing" label="Back to choosing" severity="secondary" outlined @click="reviewing = false" />
        <Button v-else label="Review" :disabled="!value.sections.length" @click="review" />
      </template>
    </PageHead>
    <Clash v-if="clash" by="Somebody else" @theirs="takeTheirs" @mine="keepMine" />
    <Trouble v-else :error="error ?? send.error.value ?? query.error.value" />

    <section v-if="sheet.sittings.length && !reviewing" class="out" aria-label="What is out">
      <h2>What is out</h2>
      <LedgerTable label="What is out" banded>
        <thead>
          <tr>
            <th>School</th>
            <th>Section</th>
            <th>Window</th>
            <th>Door</th>
            <th class="num">Students</th>
            <th class="num">Handed in</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="g in out" :key="g.id">
            <td>{{ g.school }}</td>
            <td>
              <RouterLink :to="`/rooms/${g.id}`">{{ g.section }}</RouterLink>
            </td>
            <td class="nowrap">{{ windowOf(g.opensAt, g.closesAt) }}</td>
            <td>{{ g.door }}</td>
            <td class="num">{{ g.seats }}</td>
            <td class="num">{{ g.done }}</td>
          </tr>
        </tbody>
      </LedgerTable>
      <button v-if="sheet.sittings.length > shownOut" type="button" class="link-button" @click="shownOut = sheet.sittings.length">
        Show all {{ sheet.sittings.length }} sections
      </button>
    </section>
    <h2 v-if="sheet.sittings.length && view && sheet.maySend && !reviewing">Send to more sections</h2>
    <template v-if="view && !reviewing && (sheet.maySend || !sheet.sittings.length)">
      <div class="when">
        <div class="field">
          <label for="opens">Window begins</label>
          <InputText id="opens" v-model="value.opens" type="datetime-local" :disabled="!sheet.maySend" />
        </div>
        <div class="field">
          <label for="closes">Window ends</label>
          <InputText id="closes" v-model="value.closes" type="datetime-local" :disabled="!sheet.maySend" />
        </div>
        <p class="soft">
          Times are in {{ zoneName() }}. {{ limit }}.
          <RouterLink :to="`/assessments/${sheet.id}/settings`">How it is given</RouterLink>
        </p>
      </div>
      <Empty
        v-if="!view.candidates.length"
        text="No section has a course in this assessment's subject and grades. Look at its outline, or at the rosters."
      />
      <div v-else class="who">
        <TargetTree
          v-model="value.sections"
          :candidates="view.candidates"
          :disabled="!sheet.maySend"
          :left-out="value.leftOut.length"
          @open="(s) => (opened = s)"
        />
        <aside aria-label="Preflight" class="checks">
          <h2>Preflight</h2>
          <p aria-live="polite">
            {{ plural(view.sectionCount, 'section') }}, {{ plural(view.studentCount, 'student')
            }}<template v-if="value.leftOut.length">, {{ value.leftOut.length }} left out</template>.
          </p>
          <p v-if="!view.findings.length" class="pine"><strong>Nothing to fix.</strong></p>
          <ul>
            <li v-for="f in view.findings" :key="f.code" :class="f.severity">
              <strong>{{ f.severity === 'stop' ? 'Stop' : 'Caution' }}</strong> {{ f.text }}
              <RouterLink v-if="f.part !== 'distribution'" :to="`/assessments/${sheet.id}/${f.part}`"
                >to the {{ f.part }}</RouterLink
              >
            </li>
          </ul>
        </aside>
      </div>
    </template>

    <section v-else-if="view" class="review" aria-label="Review">
      <h2>Everything once more</h2>
      <dl>
        <dt>Assessment</dt>
        <dd>
          {{ sheet.outline.title }}, edition {{ sheet.edition
          }}<span v-if="sheet.fingerprint" class="mono soft"> {{ sheet.fingerprint.slice(0, 12) }}</span>
        </dd>
        <dt>Lines</dt>
        <dd>{{ sheet.lines.length }}, worth {{ sheet.total }} points</dd>
        <dt>Bands</dt>
        <dd>
          <template v-if="sheet.bandSet"
            >{{ sheet.bandSet.name }}: {{ sheet.cuts?.starts.map((s) => `${s.name} from ${s.raw}`).join(', ') }}</template
          ><template v-else>none</template>
        </dd>
        <dt>Goes to</dt>
        <dd>
          {{ plural(view.sectionCount, 'section') }} in {{ plural(schools, 'school') }},
          {{ plural(view.studentCount, 'student') }}
        </dd>
        <dt>Left out</dt>
        <dd>{{ view.leftOutNames.length ? view.leftOutNames.join(', ') : 'nobody' }}</dd>
        <dt>Window</dt>
        <dd>{{ local(value.opens) }} to {{ local(value.closes) }}</dd>
        <dt>Time limit</dt>
        <dd>{{ limit }}</dd>
      </dl>
      <Note v-for="f in stops" :key="f.code"><strong class="brick">Stop.</strong> {{ f.text }}</Note>
      <div v-for="(c, i) in cautions" :key="c.code" class="caution">
        <label :for="`reason-${i}`"><strong class="resin">Caution.</strong> {{ c.text }} Why send it anyway?</label>
        <InputText :id="`reason-${i}`" v-model="reasons[c.code]" maxlength="500" fluid />
      </div>
      <Button
        :label="`Send to ${plural(view.studentCount, 'student')}`"
        :disabled="!ready"
        :loading="send.isPending.value"
        @click="send.mutate()"
      />
    </section>
    <LeaveOut v-if="opened" v-model="value.leftOut" :section="opened" @close="opened = undefined" />
  </div>
</template>

<style scoped>
.out {
  margin-bottom: 22px;
}
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
.when {
  display: flex;
  gap: 16px;
  align-items: flex-end;
  flex-wrap: wrap;
  margin-bottom: 16px;
}
.when p {
  margin: 0 0 6px;
}
.who {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 28px;
}
.checks ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
.checks li {
  padding: 7px 10px;
  margin-bottom: 8px;
  border-left: 3px solid var(--resin);
  background: var(--resin-tint);
}
.checks li strong {
  color: var(--resin);
}
.checks li.stop {
  border-color: var(--brick);
  background: var(--brick-tint);
}
.checks li.stop strong {
  color: var(--brick);
}
.checks h2 {
  margin-bottom: 6px;
}
.review {
  max-width: 760px;
}
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  margin: 10px 0 18px;
  border-top: 1.5px solid var(--ink);
}
dt,
dd {
  margin: 0;
  padding: 7px 4px;
  border-bottom: 1px solid var(--rule);
}
dt {
  color: var(--ink-soft);
}
.caution {
  display: flex;
  flex-direction: column;
  gap: 6px;
  margin-bottom: 14px;
}
@media (max-width: 860px) {
  .who {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
