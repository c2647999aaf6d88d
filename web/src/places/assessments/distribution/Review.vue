<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed } from 'vue'
import Note from '@/parts/Note.vue'
import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import { local, whoseWave, type Distribution } from './whom'

/** Everything once more on one page, which can be printed; then send. */
const reasons = defineModel<Record<string, string>>({ required: true })
const props = defineProps<{ sheet: Schemas['Sheet']; view: Distribution; limit: string; sending: boolean }>()
defineEmits<{ send: [] }>()
const stops = computed(() => props.view.findings.filter((f) => f.severity === 'stop'))
const cautions = computed(() => props.view.findings.filter((f) => f.severity === 'caution'))
const ready = computed(() => !stops.value.length && cautions.value.every((c) => reasons.value[c.code]?.trim()))
const print = () => window.print()
</script>

<template>
  <section class="review" aria-label="Review">
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
      <template v-if="view.deal">
        <dt>Forms</dt>
        <dd>
          {{ view.forms.map((f) => `${f.letter}: ${plural(f.students, 'student')}`).join(', ')
          }}{{ view.deal === 'seats' ? ', one after the other over the seats of each section' : ', one to a section' }}
        </dd>
      </template>
      <dt>Goes to</dt>
      <dd>
        {{ plural(view.total.sections, 'section') }} in {{ plural(view.total.schools, 'school') }},
        {{ plural(view.total.students, 'student') }}:
        {{ view.account.map((a, i) => (view.entries[i]?.out ? `without ${a.words}` : a.words)).join('; ') }}
      </dd>
      <dt>Later</dt>
      <dd>{{ view.follow ? 'Who comes later is taken in' : 'Nobody who comes later is taken in' }}</dd>
      <dt>Left out</dt>
      <dd>
        {{ view.leftOutNames.length ? view.leftOutNames.slice(0, 40).join(', ') : 'nobody'
        }}{{ view.leftOutNames.length > 40 ? ` and ${view.leftOutNames.length - 40} more` : '' }}
      </dd>
      <template v-for="(w, i) in view.waves" :key="i">
        <dt>{{ view.waves.length > 1 ? w.wave.name || `Wave ${i + 1}` : 'Window' }}</dt>
        <dd>
          {{ local(w.wave.opens) }} to {{ local(w.wave.closes) }}<template v-if="w.hours">, {{ w.hours }}</template
          ><template v-if="view.waves.length > 1">: {{ whoseWave(w, true) }}, {{ plural(w.students, 'student') }}</template>
        </dd>
      </template>
      <dt>Time limit</dt>
      <dd>{{ limit }}</dd>
    </dl>
    <Note v-for="f in stops" :key="f.code"><strong class="brick">Stop.</strong> {{ f.text }}</Note>
    <div v-for="(c, i) in cautions" :key="c.code" class="caution">
      <label :for="`reason-${i}`"><strong class="resin">Caution.</strong> {{ c.text }} Why send it anyway?</label>
      <InputText :id="`reason-${i}`" v-model="reasons[c.code]" maxlength="500" fluid />
    </div>
    <div class="row">
      <Button
        :label="`Send to ${plural(view.total.students, 'student')}`"
        :disabled="!ready"
        :loading="sending"
        @click="$emit('send')"
      />
      <Button label="Print" severity="secondary" outlined @click="print" />
    </div>
  </section>
</template>

<style scoped>
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
</style>
