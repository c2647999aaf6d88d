<script setup lang="ts">
import { computed } from 'vue'
import { letter } from '@/item/letter'
import { plainWords } from '@/item/pairs'
import { partsOf, type ItemDocument } from './document'
import RichText from './RichText.vue'

/** What a student reads after answering, once feedback is given: for right and wrong, and for each wrong choice. */
const props = defineProps<{ document: ItemDocument }>()

const side = (name: 'right' | 'wrong') =>
  computed({
    get: () => props.document.feedback?.[name] ?? '',
    set: (v: string) => (props.document.feedback = { ...props.document.feedback, [name]: v || undefined }),
  })
const right = side('right')
const wrong = side('wrong')
const distractors = computed(() =>
  partsOf(props.document)
    .filter((p) => ['single-choice', 'multiple-choice'].includes(p.kind))
    .flatMap((p) =>
      (p.place.choices ?? [])
        .map((c, i) => ({ response: p.place.response, value: c.id, name: letter(i), words: plainWords(c.html) }))
        .filter((d) => !p.key.correct?.includes(d.value)),
    ),
)
const advice = (response: string, value: string) =>
  props.document.feedback?.byAnswers?.find((a) => a.response === response && a.value === value)?.html ?? ''
function advise(response: string, value: string, html: string) {
  const others = (props.document.feedback?.byAnswers ?? []).filter((a) => a.response !== response || a.value !== value)
  props.document.feedback = { ...props.document.feedback, byAnswers: html ? [...others, { response, value, html }] : others }
}
</script>

<template>
  <div class="fields">
    <div>
      <span class="name">When it is right</span>
      <RichText v-model="right" label="Feedback when it is right" small />
    </div>
    <div>
      <span class="name">When it is wrong</span>
      <RichText v-model="wrong" label="Feedback when it is wrong" small />
    </div>
    <div v-for="d in distractors" :key="d.response + d.value">
      <span class="name">After {{ d.name }}, {{ d.words || 'empty' }}: what to go over again</span>
      <RichText
        :model-value="advice(d.response, d.value)"
        :label="`What to go over again after ${d.name}`"
        small
        @update:model-value="advise(d.response, d.value, $event)"
      />
    </div>
  </div>
</template>
