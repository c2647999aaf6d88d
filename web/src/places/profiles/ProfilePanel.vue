<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import LedgerTable from '@/parts/LedgerTable.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { capital, gradeName, moment } from '@/contract/format'
import * as supportQueries from '@/queries/supports'
import EntryForm from './EntryForm.vue'
import { provider, span, type Entry } from './profiles'

/** What a student has, on what ground and for how long; what was before stays below. */
const props = defineProps<{ student: number; adding?: boolean }>()
const emit = defineEmits<{ close: []; changed: [] }>()
const id = computed(() => props.student)
const query = useQuery(supportQueries.profile(id))
const profile = computed(() => query.data.value)
const stands = computed(() => profile.value?.entries.filter((e) => e.when !== 'ended') ?? [])
const ended = computed(() => profile.value?.entries.filter((e) => e.when === 'ended') ?? [])
const form = ref<'new' | Entry | undefined>(props.adding ? 'new' : undefined)
async function done() {
  form.value = undefined
  await queries.invalidateQueries({ queryKey: ['profile'] })
  emit('changed')
}
const end = useMutation({
  mutationFn: (entry: number) =>
    call(api.DELETE('/students/{id}/profile/{entry}', { params: { path: { id: props.student, entry } } })),
  onSuccess: done,
})
const said = (e: Entry) => (e.words ? `${e.name}: ${e.words}` : e.name)
const when = { now: '', later: 'not yet', past: 'over', ended: '' } as const
</script>

<template>
  <SidePanel :title="profile?.student.name ?? 'Supports of a student'" width="max(520px, 40vw)" @close="emit('close')">
    <Trouble :error="query.error.value ?? end.error.value" />
    <template v-if="profile">
      <p class="soft">
        {{ profile.student.number }} · grade {{ gradeName(profile.student.grade) }} · {{ profile.student.section }},
        {{ profile.student.school }} · <RouterLink :to="`/calendar?student=${profile.student.id}`">Their calendar</RouterLink>
      </p>
      <LedgerTable v-if="stands.length" label="What the student has" banded>
        <thead>
          <tr>
            <th>Support</th>
            <th>{{ profile.seesGrounds ? 'Ground and time' : 'Time' }}</th>
            <th class="double">Entered</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="e in stands" :key="e.id" :class="{ past: e.when === 'past' }">
            <td>
              <strong>{{ said(e) }}</strong>
              <span class="soft block">{{ capital(provider[e.by]) }}</span>
              <span v-if="e.subjects.length" class="soft block">In {{ e.subjects.join(', ') }}</span>
            </td>
            <td>
              <span v-if="e.ground" class="block">{{ e.ground }}</span>
              <span class="soft block">{{ span(e) }}</span>
              <span v-if="when[e.when]" class="resin">{{ when[e.when] }}</span>
            </td>
            <td class="double">
              <span class="soft block">{{ e.enteredBy }}, {{ moment(e.enteredAt) }}</span>
              <span v-if="e.file" class="soft block">from {{ e.file }}</span>
              <span v-if="profile.mayEnter" class="acts">
                <button type="button" class="link-button" :aria-label="`Change ${said(e)}`" @click="form = e">Change</button>
                <button
                  type="button"
                  class="link-button"
                  :aria-label="`End ${said(e)}`"
                  :disabled="end.isPending.value"
                  @click="end.mutate(e.id)"
                >
                  End it
                </button>
              </span>
            </td>
          </tr>
        </tbody>
      </LedgerTable>
      <p v-else>Nothing beside what everyone has.</p>
      <EntryForm
        v-if="form"
        :key="form === 'new' ? 0 : form.id"
        :students="[student]"
        :grounds="profile.grounds"
        :known="profile.subjects"
        :entry="form === 'new' ? undefined : form"
        @done="done"
        @cancel="form = undefined"
      />
      <Button v-else-if="profile.mayEnter" label="Add a support" size="small" @click="form = 'new'" />
      <details v-if="ended.length">
        <summary>What was before: {{ ended.length }}</summary>
        <ul>
          <li v-for="e in ended" :key="e.id">
            {{ said(e)
            }}<span class="soft">, {{ span(e) }}; ended {{ e.endedAt ? moment(e.endedAt) : '' }} by {{ e.endedBy }}</span>
          </li>
        </ul>
      </details>
      <p class="soft foot">
        A support applies by itself wherever the student is included.
        {{ profile.seesGrounds ? 'Grounds are seen by coordinators only.' : '' }}
        Each look at this page is in the Ledger.
      </p>
    </template>
  </SidePanel>
</template>

<style scoped>
.ledger + button,
.ledger + :deep(.p-button) {
  margin-top: 10px;
}
.block {
  display: block;
}
td {
  vertical-align: top;
}
.past strong {
  text-decoration: line-through;
}
.acts {
  display: flex;
  gap: 14px;
}
details {
  margin-top: 14px;
}
summary {
  cursor: pointer;
  min-height: 28px;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
.foot {
  border-top: 1px solid var(--rule);
  margin-top: 16px;
  padding-top: 8px;
}
</style>
