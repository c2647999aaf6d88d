<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call, ProblemError, queries, type Schemas } from '@/contract/client'
import { gradesName } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as assessmentQueries from '@/queries/assess'
import { keepSheet } from '@/places/assessments/lines/lines'
import { subjectsQuery, useSubjects } from '@/queries/useSubjects'
import OutlineFields from '@/places/assessments/outline/OutlineFields.vue'

const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const { session } = useSession()
const outline = ref<Schemas['Outline']>({
  title: '',
  shortTitle: '',
  description: '',
  instructions: '',
  subject: '',
  grades: [],
  purpose: 'benchmark',
  language: 'en',
  year: session.value?.year ?? '',
})
const subjects = useSubjects()
watch(
  subjects,
  ([first]) => {
    if (first && !outline.value.subject) outline.value.subject = first.value
  },
  { immediate: true },
)
const way = ref<'blank' | 'copy' | 'document' | 'draw'>('blank')
const ways = [
  { way: 'blank', name: 'Blank', says: 'Type a blueprint, or add lines one by one.' },
  {
    way: 'copy',
    name: 'From a copy',
    says: 'Blueprint, lines and bands of another one. Its dates do not come along: set them again.',
  },
  {
    way: 'document',
    name: 'From a document',
    says: 'A PDF that exists: its key is typed beside its pages, and can be finished later.',
  },
  { way: 'draw', name: 'From a draw', says: 'Say what you need in a sentence; the items are drawn from the bank.' },
] as const

const words = ref('')
const others = useQuery({
  ...assessmentQueries.assessments(computed(() => ({ words: words.value || undefined }))),
  enabled: computed(() => way.value === 'copy'),
})
const from = ref<number>()
const title = ref('')
watch(from, async (id) => {
  if (id) title.value = (await call(api.GET('/assessments/{id}/copy', { params: { path: { id } } }))).title
})

const start = useMutation({
  mutationFn: async () => {
    if (way.value === 'copy') {
      return call(api.POST('/assessments/{id}/copy', { params: { path: { id: from.value! } }, body: { title: title.value } }))
    }
    // Who is quicker than the list of subjects gets the first of it all the same.
    const subject = outline.value.subject || (await queries.ensureQueryData(subjectsQuery))[0] || ''
    return call(api.POST('/assessments', { body: { ...outline.value, subject } }))
  },
  onSuccess: async (made) => {
    const sheet = keepSheet(made)
    emit('close')
    const part = { blank: 'blueprint', copy: 'outline', document: 'key', draw: 'lines' }[way.value]
    await router.push({ path: `/assessments/${sheet.id}/${part}`, query: way.value === 'draw' ? { draw: '1' } : {} })
  },
})
const error = computed(() => (start.error.value instanceof ProblemError ? start.error.value : undefined))
</script>

<template>
  <Dialog :visible="true" modal header="Start an assessment" :style="{ width: '560px' }" @update:visible="emit('close')">
    <form id="start" @submit.prevent="start.mutate()">
      <fieldset class="ways">
        <legend class="out-of-sight">How to start</legend>
        <label v-for="w in ways" :key="w.way"
          ><input v-model="way" type="radio" name="way" :value="w.way" /> <strong>{{ w.name }}</strong>
          <span class="soft">{{ w.says }}</span></label
        >
      </fieldset>
      <template v-if="way === 'copy'">
        <InputText v-model="words" placeholder="Words in the title" aria-label="Words in the title of the other one" fluid />
        <ul>
          <li v-for="a in others.data.value?.slice(0, 50)" :key="a.id">
            <label
              ><input v-model="from" type="radio" name="from" :value="a.id" /> <span class="title">{{ a.title }}</span>
              <span class="soft">{{ gradesName(a.grades) }}, {{ a.year }}</span></label
            >
          </li>
        </ul>
        <label v-if="from" class="stack">Title of the copy <InputText v-model="title" maxlength="200" fluid /></label>
      </template>
      <OutlineFields v-else v-model="outline" :error="error" short />
      <Trouble :error="error" />
    </form>
    <template #footer>
      <Button label="Cancel" severity="secondary" text @click="emit('close')" />
      <Button
        type="submit"
        form="start"
        :label="way === 'copy' ? 'Copy' : 'Start'"
        :loading="start.isPending.value"
        :disabled="way === 'copy' && !from"
      />
    </template>
  </Dialog>
</template>

<style scoped>
.ways {
  border: 0;
  padding: 0;
  margin: 0 0 12px;
  display: grid;
  gap: 4px;
}
.ways label {
  display: grid;
  grid-template-columns: 20px 132px 1fr;
  align-items: baseline;
}
ul {
  list-style: none;
  padding: 0;
  margin: 8px 0;
  max-height: 230px;
  overflow: auto;
  border-top: 1.5px solid var(--ink);
}
li label {
  display: flex;
  gap: 8px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
.title {
  flex: 1;
}
</style>
