<script setup lang="ts">
import { computed } from 'vue'
import RubricTraits from '@/parts/RubricTraits.vue'
import { placeOf, type Part } from './document'

/** A written answer: its box, the rubric it is read by, and examples of good answers. */
const props = defineProps<{ part: Part }>()

const rubric = computed({
  get: () => props.part.key.rubric,
  set: (now) => (props.part.key.rubric = now),
})
const examples = computed({
  get: () => (props.part.key.correct ?? []).join('\n'),
  set: (v: string) => (props.part.key.correct = v.split('\n').filter((x) => x.trim())),
})
</script>

<template>
  <div class="fields">
    <label class="short">Lines of the box <input v-model.number.lazy="part.place.rows" type="number" min="1" max="60" /></label>
    <fieldset :id="placeOf(part, 'declarations[0].rubric')">
      <legend>Rubric</legend>
      <RubricTraits v-model="rubric" />
    </fieldset>
    <label>
      Examples of good answers, a line each
      <textarea v-model.lazy="examples" rows="3" />
    </label>
  </div>
</template>
