<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import PersonPicker from '@/parts/PersonPicker.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import { nextMorning } from './nextMorning'

/** Seats students of several sections together in a room at another time. */
const props = defineProps<{ assessment: number; students: Schemas['Absent'][] }>()
const emit = defineEmits<{ close: []; arranged: [sitting: number] }>()
const { session } = useSession()
const room = ref('')
const proctor = ref<Schemas['Person']>()
const choosing = ref(false)
const [opens, closes] = nextMorning(new Date()).map((at) => ref(at)) as [
  ReturnType<typeof ref<string>>,
  ReturnType<typeof ref<string>>,
]
const sections = computed(() => new Set(props.students.map((s) => s.sittingId)).size)
const arrange = useMutation({
  mutationFn: () =>
    call(
      api.POST('/assessments/{id}/makeups', {
        params: { path: { id: props.assessment } },
        body: {
          seats: props.students.map((s) => ({ sittingId: s.sittingId, studentId: s.studentId })),
          room: room.value,
          ...(proctor.value && { proctorId: proctor.value.id }),
          opens: opens.value ?? '',
          closes: closes.value ?? '',
        },
      }),
    ),
  onSuccess: ({ sittingId }) => emit('arranged', sittingId),
})
function choose(person: Schemas['Person']) {
  proctor.value = person
  choosing.value = false
}
</script>

<template>
  <SidePanel title="Arrange a makeup" @close="emit('close')">
    <form id="makeup" @submit.prevent="arrange.mutate()">
      <p>
        {{ plural(students.length, 'student') }} of {{ plural(sections, 'section') }} get a seat in one room. What they have begun
        goes along, and their results stay in their sections.
      </p>
      <label class="stack">Room <InputText v-model="room" required maxlength="80" placeholder="Library" autofocus /></label>
      <label class="stack">From <InputText v-model="opens" type="datetime-local" required /></label>
      <label class="stack">to <InputText v-model="closes" type="datetime-local" required /></label>
      <p class="proctor">
        Proctor: <strong>{{ proctor?.name ?? session?.name }}</strong>
        <button v-if="!choosing" type="button" class="link-button" @click="choosing = true">Choose somebody else</button>
      </p>
      <PersonPicker v-if="choosing" label="Who sees to it" :without="[]" @pick="choose" />
      <p class="soft">
        The proctor opens and closes the door of that room. They and the teachers of the sections are told on Today.
      </p>
      <h3>Students</h3>
      <ul>
        <li v-for="s in students" :key="`${s.sittingId} ${s.studentId}`">
          {{ s.name }}
          <span class="soft">{{ s.section }}{{ s.begun ? `, goes on after ${plural(s.answered, 'answer')}` : '' }}</span>
        </li>
      </ul>
    </form>
    <template #footer>
      <Trouble :error="arrange.error.value" />
      <Button type="submit" form="makeup" label="Arrange it" :loading="arrange.isPending.value" />
    </template>
  </SidePanel>
</template>

<style scoped>
.stack {
  margin-top: 8px;
}
.proctor {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  margin: 12px 0 6px;
}
h3 {
  margin: 14px 0 4px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
</style>
