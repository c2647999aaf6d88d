<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import * as assessmentQueries from '@/queries/assess'
import CheckList from './CheckList.vue'

/** One's own groups, and a new one by a rule: who has a support, or who was below a band. */
const chosen = defineModel<number[]>({ required: true })
const props = defineProps<{ groups: Schemas['StudentGroup'][] }>()
const emit = defineEmits<{ made: [] }>()
const options = computed(() =>
  props.groups.map((g) => ({ id: g.id, name: `${g.name} (${g.rule || plural(g.members, 'student')})` })),
)

const making = ref(false)
const name = ref('')
const by = ref<'support' | 'below'>('below')
const support = ref('')
const assessment = ref<number>()
const below = ref(2)
const catalog = useQuery({
  queryKey: ['supports'],
  queryFn: () => call(api.GET('/supports')),
  enabled: making,
  staleTime: Infinity,
})
const listed = useQuery({ ...assessmentQueries.assessments(), enabled: making })
const given = computed(() => (listed.data.value ?? []).filter((a) => a.state === 'out' || a.state === 'closed'))
const sheet = useQuery({
  queryKey: computed(() => ['bands-of', assessment.value]),
  queryFn: () => call(api.GET('/assessments/{id}', { params: { path: { id: assessment.value! } } })),
  enabled: computed(() => !!assessment.value),
})
const bands = computed(() => sheet.data.value?.bandSet?.bands ?? [])
const make = useMutation({
  mutationFn: () =>
    call(
      api.PUT('/groups', {
        body: {
          name: name.value,
          ...(by.value === 'support' ? { support: support.value } : { assessment: assessment.value, below: below.value }),
        },
      }),
    ),
  onSuccess: async (all) => {
    const made = all.find((g) => g.name === name.value.trim())
    await queries.invalidateQueries({ queryKey: ['distribution'] })
    emit('made')
    if (made) chosen.value = [...chosen.value, made.id]
    making.value = false
  },
})
</script>

<template>
  <CheckList v-if="options.length" v-model="chosen" legend="Your groups" :options="options" none="none chosen" />
  <p v-else class="soft">You have no group yet. A list of students is made under <em>Single students</em>.</p>
  <Button v-if="!making" label="Make a group by a rule" size="small" severity="secondary" outlined @click="making = true" />
  <form v-else @submit.prevent="make.mutate()">
    <label class="stack">Name <InputText v-model="name" maxlength="80" required /></label>
    <label class="stack"
      >Who is in it
      <select v-model="by">
        <option value="below">who was below a band</option>
        <option value="support">who has a support</option>
      </select>
    </label>
    <label v-if="by === 'support'" class="stack"
      >Support
      <select v-model="support" required>
        <option v-for="s in catalog.data.value ?? []" :key="s.key" :value="s.key">{{ s.name }}</option>
      </select>
    </label>
    <template v-else>
      <label class="stack"
        >On
        <select v-model="assessment" required>
          <option v-for="a in given" :key="a.id" :value="a.id">{{ a.title }}</option>
        </select>
      </label>
      <label v-if="bands.length" class="stack"
        >Below
        <select v-model="below">
          <option v-for="(b, i) in bands.slice(1)" :key="b.name" :value="i + 1">{{ b.name }}</option>
        </select>
      </label>
    </template>
    <p class="soft">It is worked out anew each time: who is in it today gets a seat.</p>
    <Trouble :error="make.error.value" />
    <Button type="submit" label="Save the group" size="small" :loading="make.isPending.value" />
  </form>
</template>

<style scoped>
form {
  margin: 10px 0 18px;
  padding: 10px 12px;
  border: 1px solid var(--rule);
}
</style>
