<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural } from '@/contract/format'
import { addDays, dayOf, type Calendar } from './calendar'

/** The district's days without school. Every window that is out or planned goes by them. */
const props = defineProps<{ calendar: Calendar }>()
const emit = defineEmits<{ close: []; changed: [] }>()
const settings = useQuery({ queryKey: ['settings', {}], queryFn: () => call(api.GET('/settings', { params: { query: {} } })) })
const year = useQuery({
  queryKey: ['calendar', 'year'],
  queryFn: () =>
    call(
      api.GET('/calendar', {
        params: { query: { from: addDays(props.calendar.today, -120), to: addDays(props.calendar.today, 300) } },
      }),
    ),
})
/** The days as the district says them; null while it says nothing. */
const was = computed(() => {
  const here = settings.data.value?.settings.find((s) => s.key === 'daysOff')?.here
  return here ? (here.value as string[]) : null
})
const names = computed(() => new Map(year.data.value?.daysOff.map((d) => [d.day, d.name])))
const days = computed(() => (was.value ?? []).map((day) => ({ day, name: names.value.get(day) ?? '' })))
const first = ref('')
const last = ref('')
const name = ref('')
const added = computed(() => {
  const out: { day: string; name: string }[] = []
  for (let d = first.value; d && d <= (last.value || first.value) && out.length < 60; d = addDays(d, 1))
    if (!days.value.some((x) => x.day === d) && ![0, 6].includes(new Date(`${d}T12:00:00Z`).getUTCDay()))
      out.push({ day: d, name: name.value.trim() })
  return out
})
const put = useMutation({
  mutationFn: (list: { day: string; name: string }[]) =>
    call(api.PUT('/calendar/days', { body: { school: 0, days: list, was: was.value } })),
  onSuccess: async () => {
    first.value = last.value = name.value = ''
    await Promise.all([settings.refetch(), year.refetch()])
    emit('changed')
  },
})
const add = () => put.mutate([...days.value, ...added.value])
</script>

<template>
  <SidePanel title="Days without school" @close="emit('close')">
    <p class="soft">Nobody works on them, and they count for no time. What is out goes by a change at once.</p>
    <form @submit.prevent="add">
      <div class="two">
        <label class="stack">First day <InputText v-model="first" type="date" required /></label>
        <label class="stack">Last day <InputText v-model="last" type="date" /></label>
      </div>
      <label class="stack">What it is <InputText v-model="name" maxlength="80" placeholder="Snow day" /></label>
      <Button
        type="submit"
        :label="added.length ? `Add ${plural(added.length, 'day')}` : 'Add'"
        size="small"
        :disabled="!added.length || !settings.isSuccess.value"
        :loading="put.isPending.value"
      />
    </form>
    <Trouble :error="put.error.value ?? settings.error.value" />
    <table class="ledger" aria-label="Days without school">
      <tbody>
        <tr v-for="d in days" :key="d.day">
          <td>{{ dayOf(d.day) }}, {{ d.day.slice(0, 4) }}</td>
          <td>{{ d.name }}</td>
          <td class="num">
            <button
              type="button"
              class="off"
              :aria-label="`Remove ${dayOf(d.day)}`"
              @click="put.mutate(days.filter((x) => x.day !== d.day))"
            >
              ×
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="settings.isSuccess.value && !days.length" class="soft">None yet.</p>
  </SidePanel>
</template>

<style scoped>
form {
  margin-bottom: 16px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 12px;
}
</style>
