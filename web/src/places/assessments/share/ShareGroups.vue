<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { capital } from '@/contract/format'
import * as rosterQueries from '@/queries/rosters'

/** A school's coordinators, or the department of a subject at one school or at every school. */
export interface Group {
  schoolId: number
  subject: string
  name: string
}
const props = defineProps<{ shares: Schemas['Share'][] }>()
const emit = defineEmits<{ add: [group: Group] }>()
const schools = useQuery(rosterQueries.schools)
const departments = useQuery({ queryKey: ['departments'], queryFn: () => call(api.GET('/departments')), staleTime: 300_000 })
const subject = ref('')
const school = ref(0)

const why = computed(() => {
  if (!subject.value && !school.value) return 'Choose a school, a department or both.'
  const there = props.shares.some((s) => !s.personId && s.subject === subject.value && s.schoolId === school.value)
  return there ? 'They are on the list.' : ''
})
function add() {
  const name = schools.data.value?.find((s) => s.id === school.value)?.name ?? ''
  emit('add', { schoolId: school.value, subject: subject.value, name })
  subject.value = ''
  school.value = 0
}
</script>

<template>
  <fieldset>
    <legend>Add a school or department</legend>
    <label
      >Department
      <select v-model="subject">
        <option value="">coordinators of the school</option>
        <option v-for="d in departments.data.value" :key="d" :value="d">{{ capital(d) }}</option>
      </select></label
    >
    <label
      >At
      <select v-model.number="school">
        <option :value="0">{{ subject ? 'every school' : 'choose …' }}</option>
        <option v-for="s in schools.data.value" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select></label
    >
    <Button label="Add" size="small" severity="secondary" outlined :disabled="!!why" :title="why" @click="add" />
  </fieldset>
</template>

<style scoped>
fieldset {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 4px;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
