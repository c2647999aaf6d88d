<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PersonPicker from '@/parts/PersonPicker.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { useOpenSheet } from './open'

/** With whom an assessment is shared: people who edit it too, and people and schools who may see, copy or print it. */
const emit = defineEmits<{ close: [] }>()
const { sheet, error, putShares } = useOpenSheet()
const shares = ref(sheet.value.shares.map((s) => ({ ...s })))
const mine = computed(() => sheet.value.maySend)

const schools = useQuery({ queryKey: ['schools'], queryFn: () => call(api.GET('/schools')), staleTime: 300_000 })
const open = computed(() => (schools.data.value ?? []).filter((s) => !shares.value.some((x) => x.schoolId === s.id)))
const school = ref(0)

const fresh = { edit: false, copy: true, print: true, email: '', where: '' }
function addPerson(p: Schemas['Person']) {
  shares.value.push({ ...fresh, edit: true, personId: p.id, schoolId: 0, name: p.name, email: p.email, where: p.where })
}
function addSchool() {
  const s = open.value.find((x) => x.id === school.value)
  if (s) shares.value.push({ ...fresh, personId: 0, schoolId: s.id, name: s.name })
  school.value = 0
}
async function save() {
  const done = await putShares(
    shares.value.map(({ personId, schoolId, edit, copy, print }) => ({ personId, schoolId, edit, copy, print })),
  )
  if (done) emit('close')
}
</script>

<template>
  <SidePanel title="Shared with" width="max(520px, 42vw)" @close="emit('close')">
    <p class="soft">
      The district’s assessments are seen by all coordinators, a school’s by its own. Here others are let in. Who edits it too
      cannot send it.
    </p>
    <Trouble :error="error" />
    <LedgerTable v-if="shares.length" label="Shared with">
      <thead>
        <tr>
          <th>Who</th>
          <th>edits</th>
          <th>copies</th>
          <th>prints</th>
          <th v-if="mine"><span class="out-of-sight">Take off</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in shares" :key="`${s.personId}-${s.schoolId}`">
          <td>
            {{ s.name }}
            <small class="soft">{{ s.personId ? `${s.where || 'whole district'}, ${s.email}` : 'its coordinators' }}</small>
          </td>
          <td>
            <input v-model="s.edit" type="checkbox" :disabled="!mine || !s.personId" :aria-label="`${s.name} edits it too`" />
          </td>
          <td><input v-model="s.copy" type="checkbox" :disabled="!mine" :aria-label="`${s.name} may copy it`" /></td>
          <td><input v-model="s.print" type="checkbox" :disabled="!mine" :aria-label="`${s.name} may print it`" /></td>
          <td v-if="mine" class="num">
            <button type="button" class="link-button" :aria-label="`Take ${s.name} off`" @click="shares.splice(i, 1)">
              take off
            </button>
          </td>
        </tr>
      </tbody>
    </LedgerTable>
    <p v-else>With nobody else.</p>
    <template v-if="mine">
      <div class="add">
        <PersonPicker label="Add a coordinator" :without="shares.map((s) => s.personId)" @pick="addPerson" />
        <label class="stack"
          >Add a school
          <select v-model.number="school" @change="addSchool">
            <option :value="0">choose …</option>
            <option v-for="s in open" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select></label
        >
      </div>
    </template>
    <template v-if="mine" #footer><Button label="Keep" @click="save" /></template>
  </SidePanel>
</template>

<style scoped>
small {
  display: block;
}
tr :deep(td) {
  height: 44px;
}
.add {
  margin-top: 16px;
}
select {
  height: 30px;
  font: inherit;
  background: var(--paper);
  color: inherit;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
}
</style>
