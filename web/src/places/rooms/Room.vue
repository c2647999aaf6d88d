<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref } from 'vue'
import { useRoute } from 'vue-router'
import Button from 'primevue/button'
import LedgerTable from '@/parts/LedgerTable.vue'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import { focusHead } from '@/parts/head'
import { api, call, queries, type Schemas } from '@/contract/client'
import { plural, timeOrDay, windowOf } from '@/contract/format'
import { useChanges } from '@/contract/useChanges'
import * as roomQueries from '@/queries/rooms'
import { useSession } from '@/contract/session'
import * as supportQueries from '@/queries/supports'
import AddToday from './AddToday.vue'
import BellNote from './BellNote.vue'
import DoorButtons from './DoorButtons.vue'
import LateAnswers from './LateAnswers.vue'
import PadPanel from './PadPanel.vue'
import SubstitutePanel from './SubstitutePanel.vue'

const route = useRoute()
const id = computed(() => Number(route.params.id))
const room = useQuery(roomQueries.room(id))
useChanges(
  () => [`sittings/${id.value}`],
  () => void room.refetch(),
)
const sitting = computed(() => room.data.value?.sitting)
useCrumb(() => sitting.value && `${sitting.value.section}, ${sitting.value.title}`)
/** Nobody works behind a door that is not open. */
const stateOf = (state: string) => (state === 'working' && sitting.value?.door !== 'open' ? 'begun' : state)
const seat = useMutation({
  mutationFn: (studentId: number) =>
    call(api.POST('/sittings/{id}/seats', { params: { path: { id: id.value } }, body: { studentId } })),
  onSuccess: async (now) => {
    queries.setQueryData(roomQueries.room(id.value).queryKey, now)
    await nextTick()
    if (document.activeElement === document.body) focusHead() // the button went with the student's name
  },
})
const show = (now: Schemas['Room']) => queries.setQueryData(roomQueries.room(id.value).queryKey, now)
const renew = useMutation({
  mutationFn: () => call(api.POST('/sittings/{id}/code', { params: { path: { id: id.value } } })),
  onSuccess: show,
})
/** Late work that is refused waits for staff. */
const handIn = useMutation({
  mutationFn: (s: Schemas['RoomSeat']) =>
    call(api.POST('/sittings/{id}/students/{student}/hand-in', { params: { path: { id: s.sittingId, student: s.studentId } } })),
  onSuccess: () => room.refetch(),
})
const end = useMutation({
  mutationFn: (roomId: number) => call(api.DELETE('/makeups/{id}', { params: { path: { id: roomId } } })),
  onSuccess: () => room.refetch(),
})
/** Twin forms are worked on side by side. */
const forms = computed(() => new Set(room.data.value?.seats.map((s) => s.form)).size > 1)
/** Several sections sit here. */
const mixed = computed(() => new Set(room.data.value?.seats.map((s) => s.section)).size > 1 || !!sitting.value?.makeup)
const late = computed(() => room.data.value?.seats.reduce((n, s) => n + s.late, 0) ?? 0)
const leftOut = computed(() => room.data.value?.seats.reduce((n, s) => n + s.leftOut, 0) ?? 0)
const lateSeats = computed(() => room.data.value?.seats.filter((s) => s.late).length ?? 0)
const lookingAtLate = ref(false)
const { may } = useSession()
const mayAdd = computed(() => may('readSupports'))
const adding = ref<Schemas['RoomSeat']>()
const pad = ref<Schemas['RoomSeat']>()
const substitutes = ref(false)
const { nameOf, said } = supportQueries.useSaid(() => !!room.data.value?.seats.some((s) => s.supports.length))
/** Which supports students of this room have, those with more time as one group. */
const groups = computed(() => {
  const all = room.data.value?.seats ?? []
  const with_ = (key: string) => all.filter((s) => s.supports.some((g) => g.key === key)).length
  const keys = [...new Set(all.flatMap((s) => s.supports.map((g) => g.key)))]
  const time = all.filter(moreTime).length
  const rest = keys.filter((k) => !timeKeys.includes(k)).map((key) => ({ key, name: nameOf(key), n: with_(key) }))
  return time ? [{ key: 'time', name: 'More time', n: time }, ...rest] : rest
})
const timeKeys = ['extraTime', 'extraMinutes']
const moreTime = (s: Schemas['RoomSeat']) => s.supports.some((g) => timeKeys.includes(g.key))
const only = ref('')
const seats = computed(() =>
  (room.data.value?.seats ?? []).filter(
    (s) => !only.value || (only.value === 'time' ? moreTime(s) : s.supports.some((g) => g.key === only.value)),
  ),
)
const tone = (state: string) => (state === 'working' ? 'go' : 'quiet')
</script>

<template>
  <div class="page">
    <Trouble :error="room.error.value" />
    <template v-if="room.data.value && sitting">
      <PageHead :title="sitting.section">
        <template #note>
          {{ sitting.makeup ? `Proctor ${sitting.makeup.proctor}` : sitting.school }} · {{ sitting.title }} ·
          {{ windowOf(sitting.opensAt, sitting.closesAt) }} ·
          {{ sitting.minutes ? `${sitting.minutes} minutes` : 'no time limit' }}
        </template>
        <StateTag
          :state="`door ${sitting.door}`"
          :tone="sitting.door === 'open' ? 'go' : sitting.door === 'paused' ? 'caution' : 'quiet'"
        />
        <Button
          v-if="room.data.value.maySubstitute"
          label="Substitute"
          severity="secondary"
          outlined
          @click="substitutes = true"
        />
        <DoorButtons :sitting="sitting" />
      </PageHead>
      <BellNote v-if="sitting.closesByItselfAt" :sitting="sitting" :at="sitting.closesByItselfAt" @changed="show" />
      <div v-if="room.data.value.codeAsked" class="code">
        <template v-if="room.data.value.code">
          Access code <strong class="mono">{{ room.data.value.code }}</strong>
          <button type="button" class="link-button" :disabled="renew.isPending.value" @click="renew.mutate()">
            Make a new code
          </button>
        </template>
        <template v-else>The access code shows here when you open the door.</template>
      </div>
      <p v-if="!room.data.value.notes || room.data.value.managed" class="soft">
        {{
          [!room.data.value.notes && 'No notes on paper.', room.data.value.managed && 'It opens on managed devices only.']
            .filter(Boolean)
            .join(' ')
        }}
      </p>
      <Trouble :error="renew.error.value ?? handIn.error.value" />
      <Note v-if="room.data.value.late && sitting.begun > sitting.done">
        The window is over and late work is refused. {{ plural(sitting.begun - sitting.done, 'student') }} did not hand in. You
        can do it for them.
      </Note>
      <Note v-if="late">
        {{ plural(late, 'answer') }} of {{ plural(lateSeats, 'student') }} came after the end.
        <button type="button" class="link-button" @click="lookingAtLate = true">Look at late answers</button>
      </Note>
      <p v-else-if="leftOut" class="soft">
        {{ plural(leftOut, 'late answer') }} left out.
        <button type="button" class="link-button" @click="lookingAtLate = true">Look at late answers</button>
      </p>
      <Note v-if="room.data.value.unseated.length">
        {{ plural(room.data.value.unseated.length, 'student') }} joined this section after the assessment went out.
        <ul class="unseated">
          <li v-for="u in room.data.value.unseated" :key="u.studentId">
            {{ u.name }} <span class="mono soft">{{ u.number }}</span>
            <button type="button" class="link-button" :disabled="seat.isPending.value" @click="seat.mutate(u.studentId)">
              Add to this room
            </button>
          </li>
        </ul>
      </Note>
      <Trouble :error="seat.error.value" />
      <p v-for="m in room.data.value.makeups" :key="m.roomId" class="soft">
        {{ plural(m.students, 'student') }} of this section {{ m.students === 1 ? 'is' : 'are' }} in a makeup:
        <RouterLink :to="`/rooms/${m.sittingId}`">{{ m.room }}, {{ windowOf(m.opensAt, m.closesAt) }}</RouterLink>
      </p>
      <p v-if="sitting.makeup && room.data.value.mayEnd" class="soft">
        A makeup can be taken back: who has not handed in goes back to their section, with what they have begun.
        <button type="button" class="link-button" :disabled="end.isPending.value" @click="end.mutate(sitting.makeup.roomId)">
          Take it back
        </button>
      </p>
      <p v-if="end.isSuccess.value" role="status">Taken back: the students are in their sections again.</p>
      <Trouble :error="end.error.value" />
      <div v-if="groups.length" class="groups" role="group" aria-label="Students with supports">
        <button type="button" :aria-pressed="!only" @click="only = ''">All {{ sitting.seats }}</button>
        <button v-for="g in groups" :key="g.key" type="button" :aria-pressed="only === g.key" @click="only = g.key">
          {{ g.name }} {{ g.n }}
        </button>
      </div>
      <LedgerTable label="Students of this sitting" banded>
        <thead>
          <tr>
            <th>Student</th>
            <th>Number</th>
            <th v-if="mixed">Section</th>
            <th v-if="forms">Form</th>
            <th>State</th>
            <th class="num">Answered of {{ room.data.value.lines }}</th>
            <th>Progress</th>
            <th>Supports</th>
            <th>Ends</th>
            <th class="double">Last saved</th>
            <th v-if="room.data.value.recorded"><span class="out-of-sight">Record</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in seats" :key="s.studentId">
            <td class="nowrap">{{ s.name }}</td>
            <td class="mono">{{ s.number }}</td>
            <td v-if="mixed" class="nowrap">{{ s.section }}</td>
            <td v-if="forms">{{ s.form }}</td>
            <td>
              <StateTag :state="stateOf(s.state)" :tone="tone(stateOf(s.state))" />
              <button
                v-if="room.data.value.late && s.state === 'working'"
                type="button"
                class="link-button"
                :disabled="handIn.isPending.value"
                :aria-label="`Hand in for ${s.name}`"
                @click="handIn.mutate(s)"
              >
                Hand in
              </button>
            </td>
            <td class="num">{{ s.answered }}</td>
            <td>
              <span class="progress" aria-hidden="true"><span :style="{ width: `${(100 * s.answered) / s.lines}%` }" /></span>
            </td>
            <td>
              <span class="acts">
                <span v-if="s.supports.length" class="supports">{{ s.supports.map(said).join(', ') }}</span>
                <button
                  v-if="mayAdd && s.state !== 'handed in'"
                  type="button"
                  class="link-button"
                  :aria-label="`Add a support for ${s.name}`"
                  title="Add a support for this sitting"
                  @click="adding = s"
                >
                  Add
                </button>
                <button
                  v-if="s.state !== 'not begun' && room.data.value.pad"
                  type="button"
                  class="link-button"
                  :aria-label="`Scratch pad of ${s.name}`"
                  title="Look at the scratch pad"
                  @click="pad = s"
                >
                  Pad
                </button>
              </span>
            </td>
            <td class="nowrap" :class="{ own: moreTime(s) }">{{ s.endsAt ? timeOrDay(s.endsAt) : '' }}</td>
            <td class="double">{{ s.savedAt ? timeOrDay(s.savedAt) : '' }}</td>
            <td v-if="room.data.value.recorded">
              <RouterLink
                v-if="s.state !== 'handed in' && sitting.door === 'open'"
                :to="`/rooms/${s.sittingId}/record/${s.studentId}`"
                :aria-label="`Record ${s.name}`"
                >{{ s.state === 'working' ? 'go on' : 'record' }}</RouterLink
              >
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th colspan="2">{{ plural(sitting.seats, 'student') }}</th>
            <td :colspan="5 + Number(mixed) + Number(forms)">
              {{ sitting.seats - sitting.begun }} not begun, {{ sitting.begun - sitting.done }} {{ stateOf('working') }},
              {{ sitting.done }} handed in
            </td>
            <td class="double" />
            <td v-if="room.data.value.recorded" />
          </tr>
        </tfoot>
      </LedgerTable>
      <AddToday
        v-if="adding"
        :sitting="adding.sittingId"
        :seat="adding"
        @close="adding = undefined"
        @added="(now) => (show(now), (adding = undefined))"
      />
      <PadPanel v-if="pad" :sitting="pad.sittingId" :student="pad.studentId" @close="pad = undefined" />
      <SubstitutePanel v-if="substitutes" :sitting="id" @close="substitutes = false" />
      <LateAnswers v-if="lookingAtLate" :sitting="id" @close="lookingAtLate = false" />
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  max-width: 1100px;
}
.code {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin-bottom: 8px;
}
.code strong {
  font-size: 24px;
  letter-spacing: 0.14em;
}
.unseated {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
.groups {
  display: flex;
  flex-wrap: wrap;
  margin: 4px 0 10px;
}
.groups button {
  min-height: 30px;
  padding: 0 12px;
  margin-right: -1px;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  cursor: pointer;
}
.groups button[aria-pressed='true'] {
  background: var(--pine);
  color: var(--on-pine);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  align-items: center;
}
.nowrap {
  white-space: nowrap;
}
.own {
  font-weight: 650;
}
.progress {
  display: block;
  width: 110px;
  height: 8px;
  background: var(--lichen);
}
.progress span {
  display: block;
  height: 100%;
  background: var(--pine);
}
</style>
