<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'
import * as assessmentQueries from '@/queries/assess'
import { useTaking } from './usePanel'

/** Where the cuts of a round go: into a new band set or one that has the same bands. */
const props = defineProps<{ panel: Schemas['Panel']; round: Schemas['PanelRound'] }>()
const emit = defineEmits<{ close: [] }>()
const sets = useQuery(assessmentQueries.bandSets)
const median = ref(false)
const set = ref(0)
const name = ref(`${props.panel.panel.title}, by the panel`)
const fits = (s: Schemas['BandSet']) =>
  s.mayChange && !s.retired && JSON.stringify(s.bands.slice(1).map((b) => b.name)) === JSON.stringify(props.panel.cuts)
const options = computed(() => [
  { value: 0, label: 'A new band set' },
  ...(sets.data.value ?? []).filter(fits).map((s) => ({ value: s.id, label: s.name })),
])
const take = useTaking(
  props.panel.panel.id,
  computed(() => props.round.number),
)
const cuts = computed(() => props.round.result!.cuts.map((c) => ({ name: c.name, raw: median.value ? c.medianRaw : c.raw })))
</script>

<template>
  <SidePanel :title="`Take the cuts of ${round.name.toLowerCase()}`" @close="emit('close')">
    <div v-if="take.data.value" role="status">
      <p>
        <strong>{{ take.data.value.name }}</strong> has these cuts now.
      </p>
      <p><RouterLink :to="{ path: '/bands', query: { set: take.data.value.id } }">Open the band set</RouterLink></p>
      <p class="soft">Drafts that use it keep their cuts until somebody takes the newer ones. Results keep theirs.</p>
    </div>
    <form v-else class="fields" @submit.prevent>
      <fieldset v-if="panel.panel.method === 'angoff'">
        <legend>Of the judges’ values take</legend>
        <label><input v-model="median" type="radio" :value="false" /> the mean</label>
        <label><input v-model="median" type="radio" :value="true" /> the median</label>
      </fieldset>
      <ul class="cuts" aria-label="Cuts">
        <li v-for="c in cuts" :key="c.name">{{ c.name }} from {{ c.raw }} of {{ panel.total }} points</li>
      </ul>
      <label>
        Into
        <Choose v-model="set" :options="options" aria-label="Band set" />
      </label>
      <label v-if="!set">
        Name
        <InputText v-model="name" maxlength="200" />
      </label>
      <Trouble :error="take.error.value" />
    </form>
    <template #footer>
      <div class="foot">
        <Button :label="take.data.value ? 'Close' : 'Cancel'" severity="secondary" outlined @click="emit('close')" />
        <Button
          v-if="!take.data.value"
          label="Take these cuts"
          :disabled="take.isPending.value || (!set && !name.trim())"
          @click="take.mutate(set ? { median, bandSetId: set } : { median, name })"
        />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 12px;
}
.fields > label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
fieldset {
  border: 1px solid var(--rule);
  display: flex;
  gap: 18px;
}
.cuts {
  margin: 0;
  padding-left: 18px;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
