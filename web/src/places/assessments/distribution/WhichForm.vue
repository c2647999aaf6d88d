<script setup lang="ts">
import { computed } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'
import { pValue } from '@/contract/format'
import type { Distribution } from './whom'

/** How twin forms go over the seats: shown for the first rooms, with what the forms are worth. */
const deal = defineModel<Schemas['Deal']>()
const props = defineProps<{ view: Distribution; editable: boolean }>()
const letters = computed(() => props.view.forms.map((f) => f.letter))
const own = computed(() => props.view.forms[0]!.letter)
const ways = computed<{ value: Schemas['Deal']; label: string }[]>(() => [
  { value: '', label: `Form ${own.value} alone` },
  { value: 'seats', label: 'One after the other over the seats of each section' },
  { value: 'sections', label: 'One to a section' },
])
</script>

<template>
  <section aria-labelledby="which-form">
    <h2 id="which-form">Which form</h2>
    <fieldset :disabled="!editable">
      <legend class="out-of-sight">How the forms {{ letters.join(' and ') }} are dealt</legend>
      <label v-for="w in ways" :key="w.value"><input v-model="deal" type="radio" :value="w.value" />{{ w.label }}</label>
    </fieldset>
    <div v-if="view.deal" class="side">
      <div class="rooms">
        <p v-for="r in view.rooms" :key="`${r.school} ${r.section}`" class="room">
          <span class="name" :title="r.school">{{ r.section }}</span>
          <span class="seats" role="img" :aria-label="`${r.section}, ${r.school}: ${r.letters.join(' ')}`">
            <b v-for="(letter, i) in r.letters" :key="i" :class="{ other: letter !== own }" aria-hidden="true">{{ letter }}</b>
          </span>
        </p>
        <p class="soft">
          {{
            view.deal === 'seats'
              ? 'In the order of names. One room ends on a form, the next begins with another; a student keeps the form.'
              : 'A section keeps its form, also for who comes later.'
          }}
          All go by the settings of form {{ own }}; each has results of its own.
        </p>
      </div>
      <LedgerTable label="Twin forms">
        <thead>
          <tr>
            <th>Form</th>
            <th class="num">Points</th>
            <th class="num">Difficulty</th>
            <th class="num double">Students</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in view.forms" :key="f.id">
            <td>{{ f.letter }}</td>
            <td class="num">{{ f.points }}</td>
            <td class="num">{{ pValue(f.expected) }}</td>
            <td class="num double">{{ f.students }}</td>
          </tr>
        </tbody>
      </LedgerTable>
    </div>
  </section>
</template>

<style scoped>
h2 {
  margin: 14px 0 4px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
}
label {
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 30px;
}
label input {
  accent-color: var(--pine);
}
.side {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  gap: 18px;
  align-items: start;
}
.room {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  gap: 8px;
  margin: 4px 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.seats {
  display: flex;
  flex-wrap: wrap;
}
.seats b {
  width: 17px;
  padding: 1px 0;
  margin: 0 -1px -1px 0;
  text-align: center;
  font: 600 11px var(--sans);
  border: 1px solid var(--rule-strong);
}
.seats .other {
  background: repeating-linear-gradient(45deg, transparent 0 3px, var(--lichen) 3px 5px);
}
@media (max-width: 1100px) {
  .side {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
