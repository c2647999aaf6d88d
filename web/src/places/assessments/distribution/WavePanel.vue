<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import type { Schemas } from '@/contract/client'
import { zoneName } from '@/contract/format'
import CheckList from './CheckList.vue'
import { choices, noWave, type Wave } from './whom'

/** One wave: its window, typed, and its schools. */
const props = defineProps<{ wave?: Wave; candidates: Schemas['Section'][]; others: Wave[]; alone: boolean }>()
const emit = defineEmits<{ close: []; put: [wave: Wave]; remove: [] }>()
const wave = ref<Wave>({ ...noWave(), ...props.wave })
/** What no other wave has: a school or section is in one alone. */
const schools = computed(() =>
  choices(props.candidates).schools.filter((s) => !props.others.some((w) => w.schools.includes(s.id))),
)
const sections = computed(() =>
  props.candidates
    .filter((s) => !props.others.some((w) => w.sections.includes(s.id)))
    .map((s) => ({ id: s.id, name: `${s.title}, ${s.school}` })),
)
const backwards = computed(() => !!wave.value.opens && !!wave.value.closes && wave.value.closes <= wave.value.opens)
</script>

<template>
  <SidePanel :title="props.wave ? 'The wave' : 'Add a wave'" width="max(460px, 36vw)" @close="emit('close')">
    <form id="wave" @submit.prevent="emit('put', wave)">
      <label class="stack">Name <InputText v-model="wave.name" maxlength="60" placeholder="Wave 2" /></label>
      <label class="stack">Window begins <InputText v-model="wave.opens" type="datetime-local" /></label>
      <label class="stack">Window ends <InputText v-model="wave.closes" type="datetime-local" :invalid="backwards" /></label>
      <p v-if="backwards" class="brick" role="alert">The window ends before it begins.</p>
      <p class="soft">Times are in {{ zoneName() }}. Hours of the day and days without school are under Settings.</p>
      <CheckList
        v-model="wave.schools"
        legend="Schools"
        :options="schools"
        :none="wave.sections.length ? 'none' : alone ? 'everyone' : 'all others'"
      />
      <details :open="!!wave.sections.length">
        <summary>Single sections, whatever wave their school is in</summary>
        <CheckList v-model="wave.sections" legend="Sections" :options="sections" none="none" />
      </details>
    </form>
    <template #footer>
      <div class="row">
        <Button
          type="submit"
          form="wave"
          :label="props.wave ? 'Save the wave' : 'Add the wave'"
          :disabled="backwards || (!wave.schools.length && !wave.sections.length && !props.wave && !alone)"
        />
        <Button label="Cancel" severity="secondary" text @click="emit('close')" />
        <Button v-if="props.wave && !alone" label="Remove" severity="secondary" outlined @click="emit('remove')" />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
summary {
  cursor: pointer;
  min-height: 26px;
}
</style>
