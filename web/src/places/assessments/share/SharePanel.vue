<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PersonPicker from '@/parts/PersonPicker.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'
import { capital } from '@/contract/format'
import ShareGroups, { type Group } from './ShareGroups.vue'
import ShareLink from './ShareLink.vue'
import { useOpenSheet } from '@/places/assessments/sheet/open'

type Share = Schemas['Share']

/** With whom an assessment is shared: people who edit it too, and people, schools and departments who may see, copy or print it. */
const emit = defineEmits<{ close: [] }>()
const { sheet, error, putShares } = useOpenSheet()
const shares = ref(sheet.value.shares.map((s) => ({ ...s })))
/** Who had come by the link when this was opened; who comes meanwhile is not dropped by keeping the list. */
const linked = shares.value.filter((s) => s.byLink).map((s) => s.personId)
const mine = computed(() => sheet.value.maySend)

const fresh = { personId: 0, schoolId: 0, subject: '', teachers: false, byLink: false, edit: false, copy: true, print: true }
const nobody = { name: '', email: '', where: '', builds: false }
/** A person begins with looking at it; more is given on purpose. */
function addPerson({ id: personId, name, email, where, builds }: Schemas['Person']) {
  shares.value.push({ ...fresh, copy: false, print: false, personId, name, email, where, builds })
}
function addGroup(group: Group) {
  shares.value.push({ ...nobody, ...fresh, ...group })
}
const nameOf = (s: Share) => (s.subject ? `${capital(s.subject)} department` : s.name)
function about(s: Share): string {
  if (s.subject) return s.schoolId ? `at ${s.name}` : 'at every school'
  if (!s.personId) return 'its coordinators'
  return [s.where || 'whole district', s.email, ...(s.byLink ? ['came by the link'] : [])].join(', ')
}
const changed = computed(() => JSON.stringify(shares.value) !== before)
const before = JSON.stringify(shares.value)
/** Closing keeps what was changed, as Save does. */
const close = () => (mine.value && changed.value ? save() : emit('close'))
async function save() {
  const done = await putShares(
    shares.value.map(({ personId, schoolId, subject, teachers, edit, copy, print }) => {
      return { personId, schoolId, subject, teachers, edit, copy, print }
    }),
    linked,
  )
  if (done) emit('close')
}
</script>

<template>
  <SidePanel title="Shared with" width="max(520px, 42vw)" @close="close">
    <p class="soft">
      By their post, all coordinators of the district see the district’s assessments, and a school’s coordinators those of their
      school. Share it here with others, teachers too: each starts with looking at it, and is told on their Today. People who edit
      it cannot send it.
    </p>
    <Trouble :error="error" />
    <LedgerTable v-if="shares.length" label="Shared with">
      <thead>
        <tr>
          <th>Who</th>
          <th>may edit</th>
          <th>may copy</th>
          <th>may print</th>
          <th v-if="mine"><span class="out-of-sight">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in shares" :key="`${s.personId}-${s.schoolId}-${s.subject}`">
          <td>
            {{ nameOf(s) }}
            <small class="soft"
              >{{ about(s)
              }}<label v-if="!s.personId && !s.subject"
                ><input v-model="s.teachers" type="checkbox" :disabled="!mine" /> and its teachers</label
              ></small
            >
          </td>
          <td>
            <input v-model="s.edit" type="checkbox" :disabled="!mine || !s.builds" :aria-label="`${nameOf(s)} edits it too`" />
          </td>
          <td>
            <input
              v-model="s.copy"
              type="checkbox"
              :disabled="!mine || (!!s.personId && !s.builds)"
              :aria-label="`${nameOf(s)} may copy it`"
            />
          </td>
          <td><input v-model="s.print" type="checkbox" :disabled="!mine" :aria-label="`${nameOf(s)} may print it`" /></td>
          <td v-if="mine" class="num">
            <button type="button" class="link-button" :aria-label="`Remove ${nameOf(s)}`" @click="shares.splice(i, 1)">
              Remove
            </button>
          </td>
        </tr>
      </tbody>
    </LedgerTable>
    <p v-else>With nobody else.</p>
    <template v-if="mine">
      <div class="add">
        <PersonPicker label="Add a coordinator or teacher" :without="shares.map((s) => s.personId)" @pick="addPerson" />
        <ShareGroups :shares="shares" @add="addGroup" />
      </div>
      <ShareLink />
    </template>
    <template v-if="mine" #footer
      ><Button v-if="error" label="Close without saving" severity="secondary" text @click="emit('close')" /><Button
        label="Save"
        @click="save"
    /></template>
  </SidePanel>
</template>

<style scoped>
small {
  display: flex;
  gap: 10px;
}
small label {
  display: flex;
  gap: 4px;
  align-items: center;
}
small input {
  margin: 0;
}
tr :deep(td) {
  height: 44px;
}
.add {
  display: grid;
  gap: 12px;
  margin-top: 16px;
}
</style>
