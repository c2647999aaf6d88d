<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import Note from '@/parts/Note.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { day, plural, windowOf } from '@/contract/format'
import { useWaves } from './useWaves'
import type { Wave, WaveShown } from './whom'
import WavePanel from './WavePanel.vue'
import WavesTable from './WavesTable.vue'

/** One distribution that is out: its waves, other dates after a look, and the way back before anybody has begun. */
const props = defineProps<{ sent: Schemas['SentDistribution']; assessment: number; candidates: Schemas['Section'][] }>()
const emit = defineEmits<{ changed: [] }>()
const path = computed(() => ({ path: { id: props.sent.id }, header: { 'If-Match': props.sent.version } }))

/** The waves as they would be; undefined while nothing is moved. */
const next = ref<Wave[]>()
const shown = computed<WaveShown[]>(() =>
  (next.value ?? props.sent.waves.map((w) => w.wave)).map((wave, i) => ({
    ...(props.sent.waves[i] ?? { schoolNames: [], sectionCount: 0, students: 0, days: [], hours: '' }),
    wave,
  })),
)
const { open, wave, others, change, remove, add } = useWaves(shown, (waves) => (next.value = waves))
const before = ref<Wave[]>() // to be had back
const look = useMutation({
  mutationFn: ({ waves, apply }: { waves: Wave[]; apply: boolean }) =>
    call(api.PUT('/distributions/{id}/dates', { params: path.value, body: { waves, apply } })),
  onSuccess: async (found, { apply }) => {
    seen.value = apply ? undefined : found
    if (!apply) return
    before.value = props.sent.waves.map((w) => w.wave)
    next.value = undefined
    emit('changed')
  },
})
/** What was found of the waves as they stand; other waves have to be looked at again. */
const seen = ref<Schemas['DatesLook']>()
watch(next, () => (seen.value = undefined))
const start = () => {
  before.value = undefined
  next.value = props.sent.waves.map((w) => ({ ...w.wave }))
}
async function undo() {
  await look.mutateAsync({ waves: before.value!, apply: true })
  before.value = undefined
}
const recall = useMutation({
  mutationFn: () => call(api.POST('/distributions/{id}/recall', { params: path.value })),
  onSuccess: async () => {
    await queries.invalidateQueries({ queryKey: ['distribution'] })
    emit('changed')
  },
})
const asking = ref(false)
</script>

<template>
  <section :aria-label="`Sent ${day(sent.sentAt)}`">
    <p class="head">
      <strong>Sent {{ day(sent.sentAt) }}</strong
      >, edition {{ sent.edition }}, to {{ plural(sent.students, 'student') }} in {{ plural(sent.sections, 'section') }} of
      {{ plural(sent.schools, 'school') }}. {{ plural(sent.begun, 'student') }} began, {{ sent.working }} working now.
      <template v-if="sent.cameIn">{{ plural(sent.cameIn, 'student') }} came in since.</template>
      <RouterLink :to="`/assessments/${assessment}/progress`">How far they are</RouterLink>
    </p>
    <p class="soft">
      <RouterLink v-if="sent.withId" :to="`/assessments/${sent.withId}/distribution`"
        >Sent together with its twin form.</RouterLink
      >
      <template v-if="sent.letters.length">Forms {{ sent.letters.join(' and ') }} together. </template>
      {{ sent.entries.join('; ') }}. {{ sent.follow ? 'Who comes later is taken in.' : 'Who comes later is not taken in.' }}
    </p>
    <WavesTable :waves="shown" :editable="!!next" @open="(i) => (open = i)" @add="add" @change="change" />
    <Trouble :error="look.error.value ?? recall.error.value" />
    <div v-if="sent.mayChange" class="row acts">
      <template v-if="next">
        <Button
          label="See what changes"
          size="small"
          :loading="look.isPending.value"
          @click="look.mutate({ waves: next!, apply: false })"
        />
        <Button label="Cancel" size="small" severity="secondary" text @click="next = undefined" />
      </template>
      <template v-else>
        <Button label="Move dates" size="small" severity="secondary" outlined @click="start" />
        <Button
          v-if="!sent.begun"
          label="Recall"
          size="small"
          severity="secondary"
          outlined
          :loading="recall.isPending.value"
          @click="asking = true"
        />
        <span v-if="before" role="status"
          >The dates are moved. <button type="button" class="link-button" @click="undo">Undo</button></span
        >
      </template>
    </div>
    <Note v-if="asking">
      <p>
        This takes it back from {{ plural(sent.students, 'student') }} in {{ plural(sent.sections, 'section') }}. What was chosen
        stays and can be sent again.
      </p>
      <div class="row">
        <Button label="Recall it" size="small" :loading="recall.isPending.value" @click="recall.mutate()" />
        <Button label="Cancel" size="small" severity="secondary" text @click="asking = false" />
      </div>
    </Note>
    <Note v-if="seen">
      <p v-if="!seen.sections">Nothing changes.</p>
      <template v-else>
        <p>
          <strong>{{ plural(seen.sections, 'section') }}, {{ plural(seen.students, 'student') }}.</strong>
          {{
            seen.working
              ? `${plural(seen.working, 'student')} working now go by the new dates at once.`
              : 'Nobody is working now.'
          }}
        </p>
        <ul>
          <li v-for="(c, i) in seen.changes" :key="i">
            <s>{{ windowOf(c.opensWas, c.closesWas) }}</s> {{ windowOf(c.opens, c.closes) }}:
            {{ plural(c.sections, 'section') }} ({{ c.examples.join('; ') }}{{ c.sections > c.examples.length ? ' …' : '' }})
          </li>
        </ul>
        <Button
          label="Move the dates"
          size="small"
          :loading="look.isPending.value"
          @click="look.mutate({ waves: next!, apply: true })"
        />
      </template>
    </Note>
    <WavePanel
      v-if="open !== undefined"
      :key="open"
      :wave="wave"
      :candidates="candidates"
      :others="others"
      :alone="shown.length === 1 && open === 0"
      @close="open = undefined"
      @put="(w) => change(open!, w)"
      @remove="remove"
    />
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
.head {
  margin: 0 0 4px;
}
.acts {
  margin-top: 8px;
}
</style>
