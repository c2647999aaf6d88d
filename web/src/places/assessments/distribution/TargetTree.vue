<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'
import { gradeName, plural } from '@/contract/format'

/** Schools, grades and sections with counts; all of them, or some. */
const chosen = defineModel<number[]>({ required: true })
const props = defineProps<{ candidates: Schemas['Section'][] }>()

interface School {
  name: string
  sections: Schemas['Section'][]
}
const schools = computed(() => {
  const out: School[] = []
  for (const s of props.candidates) {
    if (out.at(-1)?.name !== s.school) out.push({ name: s.school, sections: [] })
    out.at(-1)!.sections.push(s)
  }
  return out
})
const grades = computed(() => [...new Set(props.candidates.map((s) => s.grade))])
const isChosen = computed(() => new Set(chosen.value))
const all = (list: Schemas['Section'][]) => list.every((s) => isChosen.value.has(s.id))
const some = (list: Schemas['Section'][]) => list.some((s) => isChosen.value.has(s.id))
const students = (list: Schemas['Section'][]) => list.reduce((n, s) => n + (isChosen.value.has(s.id) ? s.students : 0), 0)

function set(list: Schemas['Section'][], on: boolean) {
  const ids = new Set(list.map((s) => s.id))
  chosen.value = [...chosen.value.filter((id) => !ids.has(id)), ...(on ? ids : [])]
}
</script>

<template>
  <div>
    <div class="row">
      <Button label="All" size="small" severity="secondary" outlined @click="set(candidates, true)" />
      <Button label="None" size="small" severity="secondary" outlined @click="set(candidates, false)" />
      <template v-if="grades.length > 1">
        <Button
          v-for="g in grades"
          :key="g"
          :label="`All of grade ${gradeName(g)}`"
          size="small"
          severity="secondary"
          outlined
          @click="
            set(
              candidates.filter((s) => s.grade === g),
              true,
            )
          "
        />
      </template>
    </div>
    <LedgerTable label="Sections">
      <thead>
        <tr>
          <th>School and section</th>
          <th>Grade</th>
          <th>Teacher</th>
          <th class="num">Students</th>
        </tr>
      </thead>
      <tbody v-for="school in schools" :key="school.name">
        <tr class="school">
          <th scope="rowgroup" colspan="3">
            <label>
              <input
                type="checkbox"
                :checked="all(school.sections)"
                :indeterminate="some(school.sections) && !all(school.sections)"
                @change="set(school.sections, !all(school.sections))"
              />{{ school.name }}
              <span class="soft"
                >{{ school.sections.filter((s) => isChosen.has(s.id)).length }} of
                {{ plural(school.sections.length, 'section') }}</span
              >
            </label>
          </th>
          <td class="num">{{ students(school.sections) }}</td>
        </tr>
        <tr v-for="s in school.sections" :key="s.id">
          <td class="section">
            <label
              ><input type="checkbox" :checked="isChosen.has(s.id)" @change="set([s], !isChosen.has(s.id))" />{{ s.title }}</label
            >
          </td>
          <td>{{ gradeName(s.grade) }}</td>
          <td>{{ s.teacher }}</td>
          <td class="num">{{ s.students }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th colspan="3">{{ plural(chosen.length, 'section') }} chosen</th>
          <td class="num">{{ students(candidates) }}</td>
        </tr>
      </tfoot>
    </LedgerTable>
  </div>
</template>

<style scoped>
.row {
  margin-bottom: 8px;
}
.school > * {
  background: var(--tint);
}
.school th {
  font-weight: 650 !important;
}
.school .soft {
  font-weight: 400;
  margin-left: 6px;
}
.section {
  padding-left: 26px !important;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  cursor: pointer;
}
input {
  width: 15px;
  height: 15px;
  accent-color: var(--pine);
}
</style>
