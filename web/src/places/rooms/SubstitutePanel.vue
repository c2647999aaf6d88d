<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { dayOf } from '@/places/calendar/calendar'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { dateOf, plural, windowOf } from '@/contract/format'
import * as roomQueries from '@/queries/rooms'

/** Lets somebody who is in no roster see to rooms for one day, by a link that is shown once. */
const props = defineProps<{ sitting: number }>()
const emit = defineEmits<{ close: [] }>()
const query = roomQueries.substitutes(props.sitting)
const substitutes = useQuery({ ...query, refetchInterval: 10_000 })
const today = dateOf(new Date())
const name = ref('')
const day = ref(today)
/** Rooms that have a window on the day; all are chosen until one is left out. */
const rooms = computed(() =>
  (substitutes.data.value?.rooms ?? []).filter((r) => dateOf(r.opensAt) <= day.value && day.value <= dateOf(r.closesAt)),
)
const chosen = ref<number[]>([])
watch(rooms, (now) => (chosen.value = now.map((r) => r.sittingId)), { immediate: true })

const made = ref<Schemas['SubstituteMade']>()
const link = computed(() => made.value && `${location.origin}/stand-in#${made.value.secret}`)
const field = useTemplateRef<HTMLInputElement>('field')
const copied = ref(false)
const changed = () => queries.invalidateQueries({ queryKey: query.queryKey })
const add = useMutation({
  mutationFn: () =>
    call(
      api.POST('/sittings/{id}/substitutes', {
        params: { path: { id: props.sitting } },
        body: { name: name.value, day: day.value, sittings: chosen.value },
      }),
    ),
  onSuccess: async (now) => {
    made.value = now
    name.value = ''
    copied.value = false
    void changed()
    await nextTick()
    field.value?.select()
  },
})
const end = useMutation({
  mutationFn: (substitute: number) =>
    call(api.DELETE('/sittings/{id}/substitutes/{substitute}', { params: { path: { id: props.sitting, substitute } } })),
  onSuccess: (_, id) => {
    if (made.value?.substitute.id === id) made.value = undefined
    return changed()
  },
})
/** Browsers copy only on secure pages; elsewhere the link stands chosen, for the keys to copy. */
async function copy() {
  field.value?.select()
  await navigator.clipboard?.writeText(link.value ?? '')
  copied.value = !!navigator.clipboard
}
</script>

<template>
  <SidePanel title="Substitute" @close="emit('close')">
    <Trouble :error="substitutes.error.value ?? end.error.value" />
    <p class="soft">
      Somebody who stands in for the teacher opens a link, and can open and close the doors of these rooms and watch them, on that
      day alone. They see no keys and no results.
    </p>
    <Note v-if="made" role="status">
      <label for="stand-in-link">The link of {{ made.substitute.name }}, shown this once. Hand it on to nobody else.</label>
      <input id="stand-in-link" ref="field" class="mono" readonly :value="link" @focus="field?.select()" />
      <Button :label="copied ? 'Copied' : 'Copy the link'" size="small" @click="copy" />
    </Note>
    <form @submit.prevent="add.mutate()">
      <label for="stand-in-name">First and last name</label>
      <InputText id="stand-in-name" v-model="name" required maxlength="80" autocomplete="off" fluid />
      <label for="stand-in-day">Day</label>
      <InputText id="stand-in-day" v-model="day" type="date" :min="today" required />
      <fieldset>
        <legend>Rooms</legend>
        <label v-for="r in rooms" :key="r.sittingId" class="room">
          <input v-model="chosen" type="checkbox" :value="r.sittingId" />
          <span
            >{{ r.section }}, {{ r.title }} <span class="soft">{{ windowOf(r.opensAt, r.closesAt) }}</span></span
          >
        </label>
        <p v-if="!rooms.length" class="soft">No room of this teacher has a window on that day.</p>
      </fieldset>
      <Trouble :error="add.error.value" />
      <Button type="submit" label="Make the link" :disabled="!chosen.length" :loading="add.isPending.value" />
    </form>
    <template v-if="substitutes.data.value?.list.length">
      <h3>Those of this room</h3>
      <ul>
        <li v-for="b in substitutes.data.value.list" :key="b.id">
          <strong>{{ b.name }}</strong>
          <span class="soft">
            {{ dayOf(b.day) }} · {{ plural(b.rooms, 'room') }} · {{ b.came ? 'has come' : 'has not come yet' }} · by
            {{ b.madeBy }}
          </span>
          <button type="button" class="link-button" :disabled="end.isPending.value" @click="end.mutate(b.id)">
            Take the link back
          </button>
        </li>
      </ul>
    </template>
  </SidePanel>
</template>

<style scoped>
form > label {
  display: block;
  font-weight: 600;
  margin-top: 10px;
}
form > button {
  margin-top: 10px;
}
fieldset {
  margin: 12px 0 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  font-weight: 600;
}
.room {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 3px 0;
}
.room .soft {
  display: block;
}
#stand-in-link {
  width: 100%;
  margin: 6px 0 8px;
  padding: 8px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: inherit;
}
h3 {
  margin: 20px 0 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 6px 0;
  border-top: 1px solid var(--rule);
}
li .soft {
  display: block;
}
</style>
