<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import * as rosterQueries from '@/queries/rosters'

/** Students one by one, from their sections; a choice can be kept as a group. */
const chosen = defineModel<number[]>({ required: true })
const props = defineProps<{ candidates: Schemas['Section'][] }>()
const section = ref(props.candidates[0]?.id ?? 0)
const students = useQuery({ ...rosterQueries.studentsOf(section), enabled: computed(() => section.value > 0) })
const title = (s: Schemas['Section']) => `${s.title}, ${s.school}`
function toggle(id: number) {
  chosen.value = chosen.value.includes(id) ? chosen.value.filter((x) => x !== id) : [...chosen.value, id]
}
const name = ref('')
const keep = useMutation({
  mutationFn: () => call(api.PUT('/groups', { body: { name: name.value, students: chosen.value } })),
  onSuccess: () => queries.invalidateQueries({ queryKey: ['distribution'] }),
})
</script>

<template>
  <label class="stack"
    >Section
    <select v-model="section">
      <option v-for="s in candidates" :key="s.id" :value="s.id">{{ title(s) }}</option>
    </select>
  </label>
  <Trouble :error="students.error.value" />
  <ul aria-label="Students">
    <li v-for="s in students.data.value" :key="s.id">
      <label>
        <input type="checkbox" :checked="chosen.includes(s.id)" @change="toggle(s.id)" />{{ s.name }}
        <span class="mono soft">{{ s.number }}</span>
      </label>
    </li>
  </ul>
  <form v-if="chosen.length > 1" class="row" @submit.prevent="keep.mutate()">
    <label
      >Keep these {{ chosen.length }} as a group <InputText v-model="name" placeholder="Name" maxlength="80" required
    /></label>
    <Button type="submit" label="Save" size="small" severity="secondary" outlined :loading="keep.isPending.value" />
    <span v-if="keep.isSuccess.value" role="status">Saved.</span>
  </form>
  <Trouble :error="keep.error.value" />
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
  border-top: 1.5px solid var(--ink);
}
li {
  border-bottom: 1px solid var(--rule);
}
li label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 30px;
}
input {
  accent-color: var(--pine);
}
</style>
