<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed, defineAsyncComponent, ref } from 'vue'
import { type ProblemError, type Schemas } from '@/contract/client'
import { capital, gradeName, languageName } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as assessmentQueries from '@/queries/assess'
import Choose from '@/parts/Choose.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import { useSubjects } from '@/queries/useSubjects'
import PurposesPanel from './PurposesPanel.vue'

const RichText = defineAsyncComponent(() => import('@/places/write/RichText.vue'))

/** The fields of an outline; short ones suffice to start. */
const outline = defineModel<Schemas['Outline']>({ required: true })
defineProps<{ error?: ProblemError; short?: boolean; disabled?: boolean }>()

const subjects = useSubjects(() => outline.value.subject)
const offered = useQuery(assessmentQueries.purposes)
/** The district's list, and what this assessment is for, on the list or not. */
const purposes = computed(() =>
  [...new Set([...(offered.data.value ?? []), outline.value.purpose])]
    .filter(Boolean)
    .map((value) => ({ value, label: capital(value) })),
)
const { may } = useSession()
const listing = ref(false)
const labels = computed(() => (outline.value.labels ?? []).join(', '))
const languages = ['en', 'es'].map((value) => ({ value, label: languageName(value) }))
const grades = ['KG', '01', '02', '03', '04', '05', '06', '07', '08', '09', '10', '11', '12']

function set<K extends keyof Schemas['Outline']>(key: K, value: Schemas['Outline'][K]) {
  outline.value = { ...outline.value, [key]: value }
}
function toggleGrade(g: string) {
  const now = outline.value.grades
  set(
    'grades',
    grades.filter((x) => (x === g ? !now.includes(g) : now.includes(x))),
  )
}
</script>

<template>
  <div class="fields">
    <div class="field wide">
      <label for="title">Title</label>
      <InputText
        id="title"
        :model-value="outline.title"
        maxlength="200"
        :autofocus="short"
        :disabled="disabled"
        :invalid="!!error?.of('/title')"
        @update:model-value="set('title', $event ?? '')"
      />
      <span v-if="error?.of('/title')" class="wrong">{{ error.of('/title') }}</span>
    </div>
    <div v-if="!short" class="field wide">
      <label for="short">Short title</label>
      <InputText
        id="short"
        :model-value="outline.shortTitle"
        maxlength="60"
        :disabled="disabled"
        @update:model-value="set('shortTitle', $event ?? '')"
      />
      <span class="hint">What students see in their list.</span>
    </div>
    <div class="field">
      <span id="subject-label" class="label">Subject</span>
      <Choose
        :model-value="outline.subject"
        :options="subjects"
        aria-labelledby="subject-label"
        :disabled="disabled"
        @update:model-value="set('subject', $event ?? '')"
      />
    </div>
    <div class="field">
      <span id="purpose-label" class="label">Purpose</span>
      <Choose
        :model-value="outline.purpose"
        :options="purposes"
        aria-labelledby="purpose-label"
        :disabled="disabled"
        @update:model-value="set('purpose', $event ?? '')"
      />
      <button v-if="!short && may('import')" type="button" class="link-button hint" @click="listing = true">
        the district’s list
      </button>
    </div>
    <fieldset class="field wide">
      <legend>Grades</legend>
      <div class="grades">
        <label v-for="g in grades" :key="g" :class="{ on: outline.grades.includes(g) }">
          <input type="checkbox" :checked="outline.grades.includes(g)" :disabled="disabled" @change="toggleGrade(g)" />{{
            gradeName(g)
          }}
        </label>
      </div>
      <span v-if="error?.of('/grades')" class="wrong">{{ error.of('/grades') }}</span>
    </fieldset>
    <template v-if="!short">
      <div class="field">
        <span id="language-label" class="label">Language</span>
        <Choose
          :model-value="outline.language"
          :options="languages"
          aria-labelledby="language-label"
          :disabled="disabled"
          @update:model-value="set('language', $event ?? '')"
        />
      </div>
      <div class="field">
        <label for="year">School year</label>
        <InputText
          id="year"
          :model-value="outline.year"
          maxlength="20"
          :disabled="disabled"
          @update:model-value="set('year', $event ?? '')"
        />
      </div>
      <div class="field">
        <label for="course">Course</label>
        <InputText
          id="course"
          :model-value="outline.course"
          maxlength="100"
          :disabled="disabled"
          @update:model-value="set('course', $event ?? '')"
        />
      </div>
      <div class="field">
        <label for="labels">Labels</label>
        <InputText
          id="labels"
          :model-value="labels"
          maxlength="600"
          :disabled="disabled"
          :invalid="!!error?.of('/labels')"
          @change="
            set(
              'labels',
              ($event.target as HTMLInputElement).value
                .split(',')
                .map((l) => l.trim())
                .filter(Boolean),
            )
          "
        />
        <span class="hint">Several with commas between them.</span>
      </div>
      <div class="field wide">
        <label for="description">Description</label>
        <Textarea
          id="description"
          :model-value="outline.description"
          rows="2"
          maxlength="5000"
          :disabled="disabled"
          @update:model-value="set('description', $event ?? '')"
        />
        <span class="hint">For colleagues; students do not see it.</span>
      </div>
      <div class="field wide">
        <span class="label">Instructions</span>
        <SafeHtml v-if="disabled" :html="outline.instructions || 'None.'" class="read" />
        <RichText
          v-else
          :model-value="outline.instructions"
          label="Instructions"
          :lang="outline.language"
          @update:model-value="set('instructions', $event)"
        />
        <span v-if="error?.of('/instructions')" class="wrong">{{ error.of('/instructions') }}</span>
        <span class="hint">Students read them before the first item.</span>
      </div>
    </template>
    <PurposesPanel v-if="listing" @close="listing = false" />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
.wide {
  grid-column: 1 / -1;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 600;
  font-size: 12.5px;
  padding: 0;
  margin-bottom: 4px;
}
.grades {
  display: flex;
  padding-left: 1px;
  flex-wrap: wrap;
}
.grades label {
  display: flex;
  align-items: center;
  gap: 5px;
  min-height: 30px;
  padding: 0 5px;
  border: 1px solid var(--rule-strong);
  margin-left: -1px;
}
.grades label.on {
  background: var(--tint-strong);
  font-weight: 650;
}
.grades input {
  accent-color: var(--pine);
  width: 15px;
  height: 15px;
}
@media (max-width: 860px) {
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
