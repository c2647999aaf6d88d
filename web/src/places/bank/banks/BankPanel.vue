<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import PersonPicker from '@/parts/PersonPicker.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { ProblemError, api, call, queries, type Schemas } from '@/contract/client'
import { useSession } from '@/contract/session'
import * as rosterQueries from '@/queries/rosters'
import * as bankQueries from '@/queries/bank'
import { kindOf } from './kinds'

/** A bank: its name, its terms, and who is who in it. */
const props = defineProps<{ bank?: Schemas['Bank'] }>()
const emit = defineEmits<{ close: [] }>()
const { session } = useSession()

const mayKeep = computed(() => !props.bank || props.bank.standing === 'keeper')
const district = computed(() => session.value?.roles.includes('district-coordinator') ?? false)
const kinds = computed<Schemas['BankKind'][]>(() =>
  district.value ? ['group', 'school', 'district', 'given'] : ['group', 'school'],
)
const kind = ref<Schemas['BankKind']>(props.bank?.kind ?? 'group')
const school = ref<number>(props.bank?.schoolId ?? 0)
const form = ref<Schemas['BankInput']>({
  name: props.bank?.name ?? '',
  about: props.bank?.about ?? '',
  noCopy: props.bank?.noCopy ?? false,
  noPrint: props.bank?.noPrint ?? false,
  members: [],
})
const members = ref<Schemas['Member'][]>([...(props.bank?.members ?? [])])
const schools = useQuery({
  ...rosterQueries.schools,
  enabled: computed(() => !props.bank && kind.value === 'school'),
})

const save = useMutation({
  mutationFn: () => {
    const body = { ...form.value, members: members.value.map(({ id, standing }) => ({ id, standing })) }
    return props.bank
      ? call(
          api.PUT('/banks/{id}', { params: { path: { id: props.bank.id }, header: { 'If-Match': props.bank.version } }, body }),
        )
      : call(api.POST('/banks', { body: { kind: kind.value, schoolId: kind.value === 'school' ? school.value : 0, bank: body } }))
  },
  onSuccess: (now) => {
    queries.setQueryData(bankQueries.banks.queryKey, now)
    emit('close')
  },
})
const problem = (pointer: string) => (save.error.value instanceof ProblemError ? save.error.value.of(pointer) : '')
</script>

<template>
  <SidePanel :title="bank?.name ?? 'A new bank'" @close="emit('close')">
    <form id="bank" @submit.prevent="save.mutate()">
      <label v-if="!bank" class="stack"
        >Whose
        <select v-model="kind">
          <option v-for="k in kinds" :key="k" :value="k">{{ kindOf[k] }}</option>
        </select>
      </label>
      <p v-else class="soft">{{ bank.school || kindOf[bank.kind] }}</p>
      <label v-if="!bank && kind === 'school'" class="stack"
        >School
        <select v-model="school">
          <option v-for="s in schools.data.value" :key="s.id" :value="s.id">{{ s.name }}</option>
        </select>
        <small v-if="problem('/schoolId')" class="wrong">{{ problem('/schoolId') }}</small>
      </label>
      <fieldset :disabled="!mayKeep">
        <label class="stack"
          >Name
          <input v-model="form.name" class="p-inputtext p-component" maxlength="80" required :aria-invalid="!!problem('/name')" />
          <small v-if="problem('/name')" class="wrong">{{ problem('/name') }}</small>
        </label>
        <label class="stack"
          >What belongs in it
          <textarea v-model="form.about" rows="2" class="p-textarea p-component" maxlength="1000" />
        </label>
        <template v-if="kind !== 'own'">
          <label class="line"
            ><input type="checkbox" :checked="!form.noCopy" @change="form.noCopy = !form.noCopy" /> items may be copied out of it,
            the origin stays with them</label
          >
          <label class="line"
            ><input type="checkbox" :checked="!form.noPrint" @change="form.noPrint = !form.noPrint" /> Items may be printed</label
          >
        </template>
      </fieldset>
      <template v-if="kind !== 'own' && mayKeep">
        <h3>Members</h3>
        <p class="soft">
          {{
            kind === 'group'
              ? 'Only members and district coordinators see a group’s bank. Its keepers decide who writes.'
              : 'In addition to those who may use it by their role.'
          }}
        </p>
        <ul>
          <li v-for="m in members" :key="m.id">
            <span class="who"
              >{{ m.name }} <span class="soft">{{ m.email }}</span></span
            >
            <select v-model="m.standing" :aria-label="`${m.name} is`">
              <option value="reader">reads</option>
              <option value="writer">writes</option>
              <option value="keeper">keeps it</option>
            </select>
            <button
              type="button"
              class="link-button"
              :aria-label="`Take ${m.name} off`"
              @click="members = members.filter((x) => x.id !== m.id)"
            >
              take off
            </button>
          </li>
        </ul>
        <small v-if="problem('/members')" class="wrong">{{ problem('/members') }}</small>
        <PersonPicker
          label="Add a member"
          :without="members.map((m) => m.id)"
          @pick="(p) => members.push({ id: p.id, name: p.name, email: p.email, standing: 'writer' })"
        />
      </template>
    </form>
    <template v-if="mayKeep" #footer>
      <Trouble :error="save.error.value" />
      <Button type="submit" form="bank" :label="bank ? 'Save' : 'Create bank'" :loading="save.isPending.value" />
    </template>
  </SidePanel>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 28px;
}
.line input {
  width: 15px;
  height: 15px;
  accent-color: var(--pine);
}
h3 {
  font-size: 12.5px;
  margin: 16px 0 6px;
  border-bottom: 1.5px solid var(--ink);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 10px;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.who {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.wrong {
  color: var(--brick);
}
</style>
