<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { gradeName, languageName } from '@/contract/format'
import * as bankQueries from '@/queries/bank'
import { useSubjects } from '@/queries/useSubjects'

/** What an author says of an item beside the item: its standards, grade, depth, bank. */
const props = defineProps<{ meta: Schemas['ItemMeta']; fixed: boolean; onLine?: boolean }>()

const subjects = useSubjects(() => props.meta.subject)
const grades = ['KG', '01', '02', '03', '04', '05', '06', '07', '08', '09', '10', '11', '12']

const frameworks = useQuery(bankQueries.frameworks)
const framework = computed(() => frameworks.data.value?.find((f) => f.subject.toLowerCase() === props.meta.subject))
const standards = useQuery({
  queryKey: ['standards of', computed(() => framework.value?.id)],
  queryFn: () => call(api.GET('/frameworks/{id}/standards', { params: { path: { id: framework.value!.id } } })),
  enabled: computed(() => !!framework.value),
  staleTime: 60_000,
})
const passages = useQuery({ ...bankQueries.passages(), staleTime: 60_000 })
const banks = useQuery(bankQueries.banks)
/** Those that one writes in, and the one that is named, whatever it is. */
const bankNames = computed(() => [
  ...new Set([props.meta.bank, ...(banks.data.value ?? []).filter((b) => b.write).map((b) => b.name)]),
])
const textOf = (code: string) => standards.data.value?.find((s) => s.code === code)?.text ?? ''

const code = ref('')
function align() {
  const given = code.value.trim()
  if (given && !props.meta.standards.includes(given)) props.meta.standards = [...props.meta.standards, given]
  code.value = ''
}
const tags = computed({
  get: () => props.meta.tags.join(', '),
  set: (v: string) =>
    (props.meta.tags = v
      .split(',')
      .map((t) => t.trim())
      .filter(Boolean)),
})
const depths = ['not set', '1, recall', '2, skill', '3, reasoning', '4, extended thinking']
</script>

<template>
  <div class="fields meta">
    <div class="pair">
      <label id="subject"
        >Subject
        <select :value="meta.subject" @change="meta.subject = ($event.target as HTMLSelectElement).value">
          <option value="">choose …</option>
          <option v-for="s in subjects" :key="s.value" :value="s.value">{{ s.label }}</option>
        </select></label
      >
      <label
        >Grade
        <select :value="meta.grade" @change="meta.grade = ($event.target as HTMLSelectElement).value">
          <option value="">choose …</option>
          <option v-for="g in grades" :key="g" :value="g">{{ gradeName(g) }}</option>
        </select></label
      >
    </div>
    <div id="standards">
      <label
        >Standards
        <input
          v-model="code"
          list="standard-codes"
          maxlength="100"
          placeholder="a code, then Enter"
          @keydown.enter.prevent="align"
          @change="align"
      /></label>
      <datalist id="standard-codes">
        <option v-for="s in standards.data.value ?? []" :key="s.id" :value="s.code">{{ s.text }}</option>
      </datalist>
      <ul v-if="meta.standards.length">
        <li v-for="s in meta.standards" :key="s">
          <span class="mono">{{ s }}</span> <span class="soft">{{ textOf(s) }}</span>
          <button
            type="button"
            class="link-button"
            :aria-label="`Remove ${s}`"
            @click="meta.standards = meta.standards.filter((x) => x !== s)"
          >
            Remove
          </button>
        </li>
      </ul>
    </div>
    <div class="pair">
      <label id="depth"
        >Depth of knowledge
        <select :value="meta.depth" @change="meta.depth = Number(($event.target as HTMLSelectElement).value)">
          <option v-for="(d, i) in depths" :key="i" :value="i">{{ d }}</option>
        </select></label
      >
      <label id="difficulty"
        >Difficulty
        <input
          :value="meta.difficulty"
          maxlength="10"
          placeholder="share of right answers, 0.62"
          @change="meta.difficulty = ($event.target as HTMLInputElement).value.trim()"
      /></label>
    </div>
    <div class="pair">
      <label v-if="!onLine" id="bank"
        >Bank
        <select :value="meta.bank" @change="meta.bank = ($event.target as HTMLSelectElement).value">
          <option v-for="b in bankNames" :key="b" :value="b">{{ b }}</option>
        </select></label
      >
      <label
        >Language
        <select :value="meta.language" @change="meta.language = ($event.target as HTMLSelectElement).value">
          <option v-for="l in ['en', 'es']" :key="l" :value="l">{{ languageName(l) }}</option>
        </select></label
      >
    </div>
    <label id="passage"
      >Passage
      <select :value="meta.passage" @change="meta.passage = Number(($event.target as HTMLSelectElement).value)">
        <option :value="0">stands alone</option>
        <option v-for="p in passages.data.value ?? []" :key="p.id" :value="p.id">{{ p.title }}, {{ p.words }} words</option>
      </select></label
    >
    <label id="course"
      >Course
      <input
        :value="meta.course ?? ''"
        maxlength="100"
        placeholder="where it is meant for one"
        @change="meta.course = ($event.target as HTMLInputElement).value.trim()"
    /></label>
    <label>Keywords, separated by commas <input v-model.lazy="tags" maxlength="1000" /></label>
    <label id="identifier"
      >Identifier
      <input
        :value="meta.identifier"
        maxlength="100"
        :disabled="fixed"
        placeholder="given when it is kept"
        @change="meta.identifier = ($event.target as HTMLInputElement).value.trim()"
    /></label>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
}
li {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
@media (max-width: 860px) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
