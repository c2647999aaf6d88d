<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed, ref, watch } from 'vue'
import Choose from '@/parts/Choose.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import { addDays, dayOf, daysOffSaid, type Calendar } from './calendar'

/** Days without school of the district, or of one school: typed, pasted or from a file. Every window that is out or planned goes by them. */
const props = defineProps<{ calendar: Calendar; school: number }>()
const emit = defineEmits<{ close: []; changed: [] }>()
const { may } = useSession()
/** 0 is the district, whose days are those of who imports for all of it. */
const places = computed(() => [
  ...(may('import') ? [{ value: 0, label: 'The district' }] : []),
  ...props.calendar.schools.map((s) => ({ value: s.id, label: s.name })),
])
const place = ref(places.value.some((p) => p.value === props.school) ? props.school : (places.value[0]?.value ?? 0))
const scope = computed(() => (place.value ? { school: place.value } : {}))
const settings = useQuery({
  queryKey: computed(() => ['settings', scope.value]),
  queryFn: () => call(api.GET('/settings', { params: { query: scope.value } })),
})
const year = useQuery({
  queryKey: computed(() => ['calendar', 'year', scope.value]),
  queryFn: () =>
    call(
      api.GET('/calendar', {
        params: {
          query: { ...scope.value, from: addDays(props.calendar.today, -120), to: addDays(props.calendar.today, 300) },
        },
      }),
    ),
})
const said = computed(() => settings.data.value?.settings.find((s) => s.key === 'daysOff'))
/** The days as the place says them; null while it says nothing and goes by those of the district. */
const was = computed(() => (said.value?.here ? (said.value.here.value as string[]) : null))
const names = computed(() => new Map(year.data.value?.daysOff.map((d) => [d.day, d.name])))
const days = computed(() =>
  (was.value ?? (said.value?.value as string[] | undefined) ?? []).map((day) => ({ day, name: names.value.get(day) ?? '' })),
)
const first = ref('')
const last = ref('')
const name = ref('')
const fresh = (list: { day: string; name: string }[]) =>
  list.filter((d) => !days.value.some((x) => x.day === d.day)).map(({ day, name }) => ({ day, name }))
const added = computed(() => {
  const out: { day: string; name: string }[] = []
  for (let d = first.value; d && d <= (last.value || first.value) && out.length < 60; d = addDays(d, 1))
    if (![0, 6].includes(new Date(`${d}T12:00:00Z`).getUTCDay())) out.push({ day: d, name: name.value.trim() })
  return fresh(out)
})
const put = useMutation({
  mutationFn: (list: { day: string; name: string }[]) =>
    call(api.PUT('/calendar/days', { body: { school: place.value, days: list, was: was.value } })),
  onSuccess: async () => {
    first.value = last.value = name.value = pasted.value = ''
    read.reset()
    await Promise.all([settings.refetch(), year.refetch()])
    emit('changed')
  },
})
const add = () => put.mutate([...days.value, ...added.value])
const pasted = ref('')
const read = useMutation({ mutationFn: () => call(api.POST('/calendar/days/read', { body: { text: pasted.value } })) })
const found = computed(() => (read.data.value ? fresh(read.data.value) : undefined))
watch([pasted, place], () => read.reset())
async function take(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file) pasted.value = await file.text()
}
</script>

<template>
  <SidePanel title="Days without school" @close="emit('close')">
    <p class="soft">Nobody works on them, and they count for no time. What is out goes by a change at once.</p>
    <label class="stack">Of <Choose v-model="place" :options="places" /></label>
    <p v-if="place && settings.isSuccess.value && !was" class="soft">
      It goes by those of the district. From the first change on the school has days of its own.
    </p>
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
    <details>
      <summary>Paste a list, or read a file</summary>
      <form @submit.prevent="read.mutate()">
        <Textarea
          v-model="pasted"
          rows="5"
          fluid
          maxlength="200000"
          aria-label="Days without school, a line each"
          placeholder="2026-12-24 to 2027-01-01, Winter break"
        />
        <label class="stack"
          >iCalendar, CSV or text <input type="file" accept=".ics,.csv,.txt,text/calendar,text/csv,text/plain" @change="take"
        /></label>
        <Button
          v-if="!found"
          type="submit"
          label="Read it"
          size="small"
          :disabled="!pasted.trim()"
          :loading="read.isPending.value"
        />
        <template v-else>
          <p role="status">
            {{
              found.length
                ? `${plural(found.length, 'day')} to add: ${daysOffSaid(found).join('; ')}.`
                : 'All of these are there already.'
            }}
          </p>
          <Button
            v-if="found.length"
            :label="`Add ${plural(found.length, 'day')}`"
            size="small"
            :loading="put.isPending.value"
            @click="put.mutate([...days, ...found])"
          />
        </template>
      </form>
    </details>
    <Trouble :error="put.error.value ?? read.error.value ?? settings.error.value" />
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
details {
  margin-bottom: 12px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 12px;
}
</style>
