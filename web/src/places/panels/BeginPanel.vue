<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import Choose from '@/parts/Choose.vue'
import PersonPicker from '@/parts/PersonPicker.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, ProblemError, queries, type Schemas } from '@/contract/client'
import * as assessmentQueries from '@/queries/assess'
import JudgeList from './JudgeList.vue'
import { methods } from './words'

/** Says what a new panel judges, how, and who. */
const emit = defineEmits<{ close: []; begun: [id: number] }>()
const assessments = useQuery(assessmentQueries.assessments())
const options = computed(() =>
  (assessments.data.value ?? []).map((a) => ({ value: a.id, label: a.state === 'draft' ? `${a.title} (draft)` : a.title })),
)
const assessment = ref<number>()
const title = ref('')
const method = ref<Schemas['PanelMethod']>('angoff')
const percent = ref('67')
const judges = ref<Schemas['Person'][]>([])

const begin = useMutation({
  mutationFn: () =>
    call(
      api.POST('/panels', {
        body: {
          assessmentId: assessment.value!,
          title: title.value,
          method: method.value,
          // 67 is two thirds as people say it.
          probability: method.value === 'angoff' || percent.value.trim() === '67' ? undefined : Number(percent.value) / 100,
          judges: judges.value.map((j) => j.id),
        },
      }),
    ),
  onSuccess: async (p) => {
    await queries.invalidateQueries({ queryKey: ['panels'] })
    emit('begun', p.panel.id)
  },
})
const problem = computed(() => (begin.error.value instanceof ProblemError ? begin.error.value : undefined))
</script>

<template>
  <SidePanel title="Begin a panel" @close="emit('close')">
    <form class="fields" @submit.prevent="begin.mutate()">
      <label>
        Assessment
        <Choose v-model="assessment" :options="options" placeholder="Choose an assessment" aria-label="Assessment" />
      </label>
      <p class="soft">
        Of a sealed one its form is judged, of a draft its lines as they stand now. Changes to a draft do not reach the panel.
      </p>
      <label>
        Title
        <InputText
          v-model="title"
          maxlength="200"
          :placeholder="options.find((o) => o.value === assessment)?.label ?? 'as the assessment'"
        />
      </label>
      <fieldset>
        <legend>How judges judge</legend>
        <label v-for="(m, key) in methods" :key="key" class="way">
          <input v-model="method" type="radio" name="method" :value="key" />
          <span
            ><strong>{{ m.name }}</strong
            ><br />{{ m.what }}</span
          >
        </label>
      </fieldset>
      <label v-if="method === 'orderedItems'">
        Chance of getting it right, percent
        <InputText v-model="percent" inputmode="decimal" :invalid="!!problem?.of('/probability')" />
        <span class="soft">67, two in three, is common. From 50 to 90.</span>
      </label>
      <PersonPicker label="Invite a judge" :without="judges.map((j) => j.id)" @pick="(p) => judges.push(p)" />
      <JudgeList :judges="judges" @remove="(id) => (judges = judges.filter((j) => j.id !== id))" />
      <Trouble :error="begin.error.value" />
    </form>
    <template #footer>
      <div class="foot">
        <Button label="Cancel" severity="secondary" outlined @click="emit('close')" />
        <Button label="Begin" :disabled="!assessment || begin.isPending.value" @click="begin.mutate()" />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 12px;
}
.fields > label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
fieldset {
  border: 1px solid var(--rule);
  padding: 8px 12px;
  display: grid;
  gap: 8px;
}
.way {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: start;
}
p,
.soft {
  margin: 0;
  font-weight: 400;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
