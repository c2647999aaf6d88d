<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { type Schemas } from '@/contract/client'
import * as rosterQueries from '@/queries/rosters'

/** The students of a section, to leave single ones out. */
const leftOut = defineModel<number[]>({ required: true })
const props = defineProps<{ section: Schemas['Section'] }>()
const emit = defineEmits<{ close: [] }>()

const students = useQuery(rosterQueries.studentsOf(computed(() => props.section.id)))
function toggle(id: number) {
  leftOut.value = leftOut.value.includes(id) ? leftOut.value.filter((x) => x !== id) : [...leftOut.value, id]
}
</script>

<template>
  <SidePanel :title="`${section.title}, ${section.school}`" @close="emit('close')">
    <p class="soft">Clear the check mark of a student who should not get this assessment.</p>
    <Trouble :error="students.error.value" />
    <ul>
      <li v-for="s in students.data.value" :key="s.id">
        <label :class="{ out: leftOut.includes(s.id) }">
          <input type="checkbox" :checked="!leftOut.includes(s.id)" @change="toggle(s.id)" />{{ s.name }}
          <span class="mono soft">{{ s.number }}</span>
        </label>
      </li>
    </ul>
  </SidePanel>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1.5px solid var(--ink);
}
li {
  border-bottom: 1px solid var(--rule);
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 30px;
}
label.out {
  color: var(--ink-soft);
  text-decoration: line-through;
}
input {
  accent-color: var(--pine);
}
</style>
