<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { kindName, plural } from '@/contract/format'
import { isChosen, isWritten, keyedKinds, labelSet, questionsOf, type Block, type Question } from './keyGrid'

/** Says how many questions of which kind a document asks, block by block. */
const props = defineProps<{ first: number; there: number }>()
const emit = defineEmits<{ add: [questions: Question[]] }>()

const fresh = (): Block => ({ count: 10, kind: 'single-choice', labels: 'A–D', turns: '', points: 1 })
const blocks = ref<Block[]>([fresh()])
const total = computed(() => blocks.value.reduce((n, b) => n + (b.count || 0), 0))
/** Why so many questions cannot be. */
const most = 300
const impossible = computed(() => {
  if (blocks.value.some((b) => !Number.isInteger(b.count) || b.count < 1 || b.count > most))
    return `A block has 1 to ${most} questions, a whole number.`
  if (props.there + total.value > most) return `An assessment has ${most} lines at most; ${props.there} are here already.`
  if (blocks.value.some((b) => isWritten(b) && !(b.points > 0 && b.points <= 100)))
    return 'Points are more than 0 and at most 100.'
  return ''
})
const wrong = computed(() => blocks.value.find((b) => isChosen(b) && labelSet(b.labels).length < 2))
function add() {
  emit('add', questionsOf(blocks.value, props.first))
  blocks.value = [fresh()]
}
</script>

<template>
  <form class="blocks" novalidate @submit.prevent="add">
    <p>{{ first > 1 ? 'More questions' : 'What does the document ask?' }}</p>
    <div v-for="(b, i) in blocks" :key="i" class="block">
      <input v-model.number="b.count" type="number" min="1" max="300" class="n" :aria-label="`How many, block ${i + 1}`" />
      <select v-model="b.kind" :aria-label="`Kind, block ${i + 1}`">
        <option v-for="k in keyedKinds" :key="k" :value="k">{{ kindName(k) }}</option>
      </select>
      <template v-if="isChosen(b)">
        <input
          v-model="b.labels"
          :aria-label="`Labels, block ${i + 1}`"
          placeholder="A–D, A–L or words, with commas"
          title="A range as in A–D, or words with commas between them"
        />
        <input
          v-model="b.turns"
          :aria-label="`Labels of even questions, block ${i + 1}`"
          placeholder="even numbers: F–J"
          title="Where every second question has other labels"
        />
      </template>
      <label v-if="isWritten(b)"
        ><input v-model.number="b.points" type="number" min="0.25" max="100" step="0.25" class="n" /> points each</label
      >
      <button
        v-if="blocks.length > 1"
        type="button"
        class="link-button"
        :aria-label="`Remove block ${i + 1}`"
        @click="blocks.splice(i, 1)"
      >
        Remove
      </button>
    </div>
    <p v-if="wrong" class="brick">Labels are a range as in A–D, or words with commas between them.</p>
    <p v-if="impossible" class="brick" role="alert">{{ impossible }}</p>
    <div class="row">
      <Button
        type="submit"
        :label="impossible ? 'Add questions' : `Add ${plural(total, 'question')}`"
        size="small"
        :disabled="!!impossible || !!wrong"
      />
      <button type="button" class="link-button" @click="blocks.push(fresh())">Add a block</button>
    </div>
  </form>
</template>

<style scoped>
.blocks {
  padding: 10px 0;
}
p {
  margin: 0 0 6px;
}
.block {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  margin-bottom: 6px;
}
input {
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  width: 130px;
}
.n {
  width: 64px;
  text-align: right;
}
select {
  width: 130px;
}
</style>
