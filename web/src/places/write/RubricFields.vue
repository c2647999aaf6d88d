<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import RubricTraits from '@/parts/RubricTraits.vue'
import { placeOf, type Part } from './document'
import RubricPicker from './RubricPicker.vue'

/** A written answer: its box, the rubric it is read by, and examples of good answers. */
const props = defineProps<{ part: Part }>()

const rubric = computed({
  get: () => props.part.key.rubric,
  set: (now) => (props.part.key.rubric = now),
})
const choosing = ref(false)
function use(traits: NonNullable<typeof rubric.value>['traits']) {
  rubric.value = { traits: JSON.parse(JSON.stringify(traits)) as typeof traits }
  choosing.value = false
}
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
      <Button
        class="other"
        label="Use another item’s rubric"
        size="small"
        severity="secondary"
        outlined
        @click="choosing = true"
      />
    </fieldset>
    <label>
      Examples of good answers, a line each
      <textarea v-model.lazy="examples" rows="3" />
    </label>
    <RubricPicker v-if="choosing" @choose="use" @close="choosing = false" />
  </div>
</template>

<style scoped>
.other {
  margin-left: 8px;
}
</style>
