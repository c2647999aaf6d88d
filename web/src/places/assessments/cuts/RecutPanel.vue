<script setup lang="ts">
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, ref } from 'vue'
import BandSwatch from '@/parts/BandSwatch.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { ProblemError, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import { useRecut } from './useRecut'

/** A change of the cuts that results stand on: who moves, why, and then the change. */
const props = defineProps<{ assessment: number; bands: Schemas['Band'][]; from: number }>()
const emit = defineEmits<{ close: []; done: [] }>()

const { moves, change, save } = useRecut(props.assessment, props.bands, props.from)
const m = computed(() => moves.data.value)
const reason = ref('')
const sum = (numbers: number[]) => numbers.reduce((a, b) => a + b, 0)
const after = computed(() => m.value?.bands.map((_, k) => sum(m.value!.moves.map((row) => row[k]!))) ?? [])
const fault = computed(() => (change.error.value instanceof ProblemError ? change.error.value.of('/reason') : ''))
const label = computed(() => {
  const n = (m.value?.results ?? 0) + (m.value?.beyond ?? 0)
  return n ? `Change the cuts of ${plural(n, 'result')}` : 'Change the cuts'
})
function go() {
  change.mutate(reason.value, { onSuccess: () => emit('done') })
}
</script>

<template>
  <SidePanel title="Change the cuts of results" width="max(560px, 46vw)" @close="emit('close')">
    <Trouble :error="moves.error.value ?? (fault ? undefined : change.error.value)" />
    <template v-if="m">
      <p>
        <strong>{{ m.changed === 1 ? '1 student gets' : `${plural(m.changed, 'student')} get` }} another band</strong>, of
        {{ plural(m.results, 'result') }}{{ m.beyond ? ` that you see and ${m.beyond} more` : '' }}.
        <template v-if="m.waiting"
          >{{ plural(m.waiting, 'result') }} {{ m.waiting === 1 ? 'waits' : 'wait' }} for a reader and will be placed by the new
          cuts.</template
        >
        Scores do not change. Earlier bands stay on record.
      </p>
      <LedgerTable label="From band to band">
        <thead>
          <tr>
            <th>From</th>
            <th v-for="b in m.bands" :key="b" class="num">to {{ b }}</th>
            <th class="num double">Now</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in m.moves" :key="i">
            <td><BandSwatch :at="i" :of="m.bands.length" />{{ m.bands[i] }}</td>
            <td v-for="(n, k) in row" :key="k" class="num" :class="{ moved: n && k !== i, stays: k === i }">{{ n || '' }}</td>
            <td class="num double">{{ sum(row) }}</td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th>Then</th>
            <td v-for="(n, k) in after" :key="k" class="num">{{ n }}</td>
            <td class="num double">{{ sum(after) }}</td>
          </tr>
        </tfoot>
      </LedgerTable>
      <details v-if="m.changed" open>
        <summary>
          {{ plural(m.students.length, 'student') }} by name{{ m.students.length < m.changed ? ', the first' : '' }}
        </summary>
        <p>
          <button type="button" class="link-button" :disabled="save.isPending.value" @click="save.mutate()">Export as CSV</button>
        </p>
        <Trouble :error="save.error.value" />
        <div class="names" tabindex="0" role="group" aria-label="Who moves">
          <LedgerTable label="Who moves" banded>
            <thead>
              <tr>
                <th>Student</th>
                <th>Section</th>
                <th class="num">Points</th>
                <th class="double">From</th>
                <th>To</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in m.students" :key="`${s.number}/${s.section}`">
                <td class="cut" :title="`${s.student}, ${s.number}`">{{ s.student }}</td>
                <td class="band" :title="`${s.school}, ${s.section}`">{{ s.section }}</td>
                <td class="num">{{ s.raw }}</td>
                <td class="band double">{{ m.bands[s.from] }}</td>
                <td class="band">{{ m.bands[s.to] }}</td>
              </tr>
            </tbody>
          </LedgerTable>
        </div>
      </details>
      <details v-if="m.changed">
        <summary>By school</summary>
        <LedgerTable label="Moves by school" banded>
          <thead>
            <tr>
              <th>School</th>
              <th class="num">Results</th>
              <th class="num double">Higher</th>
              <th class="num">Lower</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in m.schools" :key="s.name">
              <td>{{ s.name }}</td>
              <td class="num">{{ s.results }}</td>
              <td class="num double">{{ s.higher || '' }}</td>
              <td class="num">{{ s.lower || '' }}</td>
            </tr>
          </tbody>
        </LedgerTable>
      </details>
      <label class="why">
        Reason
        <Textarea
          v-model="reason"
          rows="3"
          maxlength="1000"
          :invalid="!!fault"
          aria-describedby="why-note"
          placeholder="What happened, and who decided it"
        />
      </label>
      <p id="why-note" :class="fault ? 'brick' : 'soft'" :role="fault ? 'alert' : undefined">
        {{ fault || 'Everybody who reads these results sees it.' }}
      </p>
    </template>
    <template #footer>
      <div class="foot">
        <Button label="Cancel" severity="secondary" outlined @click="emit('close')" />
        <Button :label="label" :disabled="!m || change.isPending.value" @click="go" />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
.moved {
  background: var(--tint);
  font-weight: 650;
}
.stays {
  color: var(--ink-soft);
}
.band {
  white-space: nowrap;
}
.names {
  max-height: 260px;
  overflow: auto;
}
details {
  margin: 12px 0;
}
summary {
  cursor: pointer;
  font-weight: 600;
  padding: 3px 0;
}
.why {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
