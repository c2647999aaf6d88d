<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import { gradeName } from '@/contract/format'
import type { Schemas } from '@/contract/client'
import CheckList from './CheckList.vue'
import GroupFields from './GroupFields.vue'
import StudentFields from './StudentFields.vue'
import TargetTree from './TargetTree.vue'
import { aboutOf, choices, noEntry, type About, type Entry } from './whom'

/** One entry of whom it goes to: a rule over sections, sections one by one, a group, or students. */
const props = defineProps<{ entry?: Entry; candidates: Schemas['Section'][]; groups: Schemas['StudentGroup'][] }>()
const emit = defineEmits<{ close: []; put: [entry: Entry]; groups: [] }>()
const entry = ref<Entry>({ ...noEntry(), ...props.entry })
const about = ref<About>(props.entry ? aboutOf(props.entry) : 'rule')
const all = computed(() => choices(props.candidates))
const abouts: { value: About; label: string }[] = [
  { value: 'rule', label: 'All sections by school, grade and course' },
  { value: 'sections', label: 'Sections, one by one' },
  { value: 'group', label: 'A group of students' },
  { value: 'students', label: 'Single students' },
]
/** What the entry says, without what was chosen for another kind of entry. */
const said = computed<Entry>(() => {
  const e = entry.value
  const kept = { ...noEntry(), out: e.out }
  if (about.value === 'sections') return { ...kept, sections: e.sections }
  if (about.value === 'students') return { ...kept, students: e.students }
  const narrowed = { ...kept, schools: e.schools, grades: e.grades }
  return about.value === 'group' ? { ...narrowed, groups: e.groups } : { ...narrowed, courses: e.courses }
})
const whole = computed(
  () =>
    (about.value !== 'sections' || said.value.sections.length > 0) &&
    (about.value !== 'group' || said.value.groups.length > 0) &&
    (about.value !== 'students' || said.value.students.length > 0),
)
</script>

<template>
  <SidePanel :title="props.entry ? 'Change the entry' : 'Add an entry'" width="max(540px, 42vw)" @close="emit('close')">
    <fieldset class="plain">
      <legend>What it does</legend>
      <label><input v-model="entry.out" type="radio" :value="false" />It adds these</label>
      <label><input v-model="entry.out" type="radio" :value="true" />It leaves these out</label>
    </fieldset>
    <label class="stack"
      >Who
      <select v-model="about">
        <option v-for="a in abouts" :key="a.value" :value="a.value">{{ a.label }}</option>
      </select>
    </label>
    <GroupFields v-if="about === 'group'" v-model="entry.groups" :groups="groups" @made="emit('groups')" />
    <TargetTree v-if="about === 'sections'" v-model="entry.sections" :candidates="candidates" />
    <StudentFields v-else-if="about === 'students'" v-model="entry.students" :candidates="candidates" />
    <template v-else>
      <CheckList v-model="entry.schools" legend="Schools" :options="all.schools" none="all schools" />
      <CheckList
        v-model="entry.grades"
        legend="Grades"
        :options="all.grades.map((g) => ({ id: g, name: `Grade ${gradeName(g)}` }))"
        none="all grades"
      />
      <CheckList v-if="about === 'rule'" v-model="entry.courses" legend="Courses" :options="all.courses" none="all courses" />
    </template>
    <template #footer>
      <div class="row">
        <Button :label="props.entry ? 'Save the entry' : 'Add the entry'" :disabled="!whole" @click="emit('put', said)" />
        <Button label="Cancel" severity="secondary" text @click="emit('close')" />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
.plain {
  border: 0;
  padding: 0;
  margin: 0 0 12px;
}
.plain legend {
  padding: 0;
  font-weight: 600;
}
.plain label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 26px;
  margin-right: 18px;
}
input {
  accent-color: var(--pine);
}
</style>
