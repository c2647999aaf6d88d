<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, call } from '@/contract/client'
import { useSession } from '@/contract/session'
import * as resultQueries from '@/queries/results'
import * as assessmentQueries from '@/queries/assess'

const props = defineProps<{ places: { path: string; name: string }[] }>()
const emit = defineEmits<{ close: [] }>()

const router = useRouter()
const { may } = useSession()
const words = ref('')
const settled = refDebounced(words, 150)
const at = ref(0)

const assessments = useQuery({
  ...assessmentQueries.assessments(computed(() => ({ words: settled.value }))),
  enabled: computed(() => may('build')),
})
const results = useQuery({
  ...resultQueries.results,
  enabled: computed(() => may('readKeys')),
})

const people = useQuery({
  queryKey: ['found-people', settled],
  queryFn: () => call(api.GET('/found-people', { params: { query: { words: settled.value } } })),
  enabled: computed(() => settled.value.trim().length > 1),
})

const found = computed(() => {
  const typed = words.value.trim().toLowerCase()
  const fits = (name: string) => name.toLowerCase().includes(typed)
  return [
    ...props.places.filter((p) => fits(p.name)).map((p) => ({ to: p.path, name: p.name, what: 'place' })),
    ...(assessments.data.value ?? [])
      .slice(0, 8)
      .map((a) => ({ to: `/assessments/${a.id}`, name: a.title, what: `assessment, ${a.state}` })),
    ...(results.data.value ?? [])
      .filter((r) => fits(r.title))
      .map((r) => ({ to: `/results/${r.id}`, name: r.title, what: 'results' })),
    ...(settled.value.trim().length > 1 ? (people.data.value ?? []) : []).map((p) => ({
      to: `/rosters?school=${p.schoolId}&section=${p.sectionId}${p.studentId ? `&student=${p.studentId}` : ''}`,
      name: p.name,
      what: p.studentId ? `student, ${p.section}, ${p.school}` : `section, ${p.school}`,
    })),
  ]
})
watch(found, () => (at.value = 0))

/** Whether what is listed is not yet what was typed. */
const looking = computed(
  () => settled.value !== words.value || assessments.isLoading.value || results.isLoading.value || people.isLoading.value,
)
/** Enter right after typing waits for what was typed, and does not lead to what stood there before. */
const wanted = ref(false)
watch(words, () => (wanted.value = false))
watch([looking, found], () => {
  if (wanted.value && !looking.value && found.value[0]) go(found.value[0].to)
})

function go(to: string) {
  void router.push(to)
  emit('close')
}

function onKey(e: KeyboardEvent) {
  if (e.key === 'ArrowDown') at.value = Math.min(at.value + 1, found.value.length - 1)
  else if (e.key === 'ArrowUp') at.value = Math.max(at.value - 1, 0)
  else if (e.key === 'Enter' && looking.value && at.value === 0) wanted.value = true
  else if (e.key === 'Enter' && found.value[at.value]) go(found.value[at.value]!.to)
  else return
  e.preventDefault()
}
</script>

<template>
  <Dialog
    :visible="true"
    modal
    dismissable-mask
    header="Go to"
    position="top"
    :style="{ width: '520px' }"
    @update:visible="emit('close')"
  >
    <InputText
      v-model="words"
      autofocus
      fluid
      placeholder="A place, an assessment, results, a section, a student"
      aria-label="Go to"
      role="combobox"
      :aria-expanded="found.length > 0"
      aria-controls="goto-list"
      :aria-activedescendant="found.length ? `goto-${at}` : undefined"
      @keydown="onKey"
    />
    <ul v-show="found.length" id="goto-list" role="listbox" aria-label="Found">
      <li
        v-for="(f, i) in found"
        :id="`goto-${i}`"
        :key="f.to"
        role="option"
        :aria-selected="i === at"
        @click="go(f.to)"
        @mousemove="at = i"
      >
        {{ f.name }} <span class="soft">{{ f.what }}</span>
      </li>
    </ul>
    <p v-if="!found.length && !looking" class="soft" role="status">Nothing found by that name.</p>
  </Dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 340px;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 7px 8px;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--tint-strong);
}
</style>
