<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { gradeName, plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as rosterQueries from '@/queries/rosters'
import ProfilePanel from '@/places/profiles/ProfilePanel.vue'
import BellsPanel from './BellsPanel.vue'
import ImportPanel from './ImportPanel.vue'
import ManyPanel from './ManyPanel.vue'

const route = useRoute()
const router = useRouter()
const { may, session } = useSession()
const schools = useQuery({ ...rosterQueries.schools, staleTime: 0 })
const school = computed(() => Number(route.query.school) || undefined)
const sections = useQuery({
  queryKey: ['sections', school],
  queryFn: () => call(api.GET('/schools/{id}/sections', { params: { path: { id: school.value! } } })),
  enabled: computed(() => !!school.value),
})
/** The section whose students are shown; it lives in the address, and so does a student who was looked for. */
const section = computed(() => sections.data.value?.find((s) => s.id === Number(route.query.section)))
const openSection = (s: Schemas['Section'] | undefined) =>
  router.push({ query: { school: route.query.school, ...(s && { section: String(s.id) }) } })
const student = computed(() => Number(route.query.student) || undefined)
const students = useQuery({
  ...rosterQueries.studentsOf(computed(() => section.value?.id ?? 0)),
  enabled: computed(() => !!section.value),
})
/** The student whose supports are shown; the list stays below. */
const profile = computed(() => Number(route.query.profile) || undefined)
const openProfile = (id: number | undefined) => {
  const { school: at, section: of, student: found } = route.query
  return router.push({ query: { school: at, section: of, student: found, profile: id && String(id) } })
}
const importing = ref(false)
const ringing = ref(false)
const schoolName = computed(() => schools.data.value?.find((s) => s.id === school.value)?.name ?? '')
/** Students who are to be given a support together. */
const picked = ref<number[]>([])
const many = ref(false)
watch(
  () => section.value?.id,
  () => (picked.value = []),
)
const pick = (id: number) =>
  (picked.value = picked.value.includes(id) ? picked.value.filter((p) => p !== id) : [...picked.value, id])
const total = (of: 'sections' | 'students' | 'teachers') => (schools.data.value ?? []).reduce((n, s) => n + s[of], 0)
const openSchool = (id: number) => router.push({ query: id === school.value ? {} : { school: String(id) } })
</script>

<template>
  <div class="page">
    <PageHead title="Rosters" :note="`${session?.district ?? ''}, school year ${session?.year || 'not known yet'}`">
      <RouterLink v-if="may('readSupports')" to="/rosters/supports">Supports ahead</RouterLink>
      <template v-if="may('build')">
        <a href="/api/profiles.csv" download>Accommodations as CSV</a>
        <a href="/api/profiles.zip" download>as profiles</a>
      </template>
      <Button v-if="school" label="Bell times" severity="secondary" outlined @click="ringing = true" />
      <Button v-if="may('import')" label="Import files" @click="importing = true" />
    </PageHead>
    <Trouble :error="schools.error.value ?? sections.error.value" />
    <Empty
      v-if="schools.data.value && !schools.data.value.length"
      text="No school yet. A roster comes in as a OneRoster 1.2 zip: schools, people, courses, sections and enrolments at once."
    >
      <Button v-if="may('import')" label="Import a roster" size="small" @click="importing = true" />
    </Empty>
    <div v-else class="two">
      <LedgerTable label="Schools" banded>
        <thead>
          <tr>
            <th>School</th>
            <th class="num">Sections</th>
            <th class="num">Teachers</th>
            <th class="num double">Students</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(s, i) in schools.data.value"
            :key="s.id"
            :tabindex="i ? -1 : 0"
            :aria-selected="s.id === school"
            @click="openSchool(s.id)"
          >
            <td>{{ s.name }}</td>
            <td class="num">{{ s.sections }}</td>
            <td class="num">{{ s.teachers }}</td>
            <td class="num double">{{ s.students.toLocaleString('en-US') }}</td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th>{{ plural(schools.data.value?.length ?? 0, 'school') }}</th>
            <td class="num">{{ total('sections') }}</td>
            <td class="num">{{ total('teachers') }}</td>
            <td class="num double">{{ total('students').toLocaleString('en-US') }}</td>
          </tr>
        </tfoot>
      </LedgerTable>
      <LedgerTable v-if="school" label="Sections of the school" banded>
        <thead>
          <tr>
            <th>Section</th>
            <th>Grade</th>
            <th>Course</th>
            <th>Teacher</th>
            <th class="num double">Students</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(s, i) in sections.data.value"
            :key="s.id"
            :tabindex="i ? -1 : 0"
            :aria-selected="s.id === section?.id"
            @click="openSection(s)"
          >
            <td>{{ s.title }}</td>
            <td>{{ gradeName(s.grade) }}</td>
            <td>{{ s.course }}</td>
            <td>{{ s.teacher }}</td>
            <td class="num double">{{ s.students }}</td>
          </tr>
        </tbody>
      </LedgerTable>
      <Empty v-else text="Choose a school to see its sections." />
    </div>
    <SidePanel v-if="section" :title="`${section.title}, ${section.school}`" @close="openSection(undefined)">
      <p class="soft">{{ section.teacher || 'No teacher' }} · {{ plural(section.students, 'student') }}</p>
      <Trouble :error="students.error.value" />
      <LedgerTable label="Students of the section" banded>
        <thead>
          <tr>
            <th v-if="may('build')"><span class="out-of-sight">Choose</span></th>
            <th>Student</th>
            <th>Number</th>
            <th>Grade</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in students.data.value" :key="s.id" :aria-selected="s.id === student || s.id === profile">
            <td v-if="may('build')">
              <input type="checkbox" :checked="picked.includes(s.id)" :aria-label="`Choose ${s.name}`" @change="pick(s.id)" />
            </td>
            <td>
              <button v-if="may('readSupports')" type="button" class="link-button" @click="openProfile(s.id)">
                {{ s.name }}
              </button>
              <template v-else>{{ s.name }}</template>
            </td>
            <td class="mono">{{ s.number }}</td>
            <td>{{ gradeName(s.grade) }}</td>
          </tr>
        </tbody>
      </LedgerTable>
      <p v-if="may('readSupports')" class="soft">Open a student to see which supports they have.</p>
      <Button
        v-if="picked.length"
        :label="`Add a support for ${plural(picked.length, 'student')}`"
        size="small"
        @click="many = true"
      />
    </SidePanel>
    <ProfilePanel v-if="profile" :key="profile" :student="profile" @close="openProfile(undefined)" />
    <ManyPanel v-if="many" :students="picked" @close="many = false" @done="((many = false), (picked = []))" />
    <BellsPanel v-if="ringing && school" :key="school" :school="school" :name="schoolName" @close="ringing = false" />
    <ImportPanel v-if="importing" @close="importing = false" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.two {
  display: grid;
  grid-template-columns: minmax(400px, 5fr) minmax(0, 7fr);
  gap: 28px;
  align-items: start;
}
@media (max-width: 860px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
