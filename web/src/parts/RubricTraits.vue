<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'

/** The traits of a rubric, each with its levels from the highest to the lowest. */
interface Rubric {
  traits: { name: string; levels: { points: number; text: string }[] }[]
}
const rubric = defineModel<Rubric | undefined>({ required: true })

const traits = computed(() => rubric.value?.traits ?? [])
function addTrait() {
  const levels = [2, 1, 0].map((points) => ({ points, text: '' }))
  rubric.value = { traits: [...traits.value, { name: '', levels }] }
}
function dropTrait(i: number) {
  const left = traits.value.filter((_, k) => k !== i)
  rubric.value = left.length ? { traits: left } : undefined
}
function addLevel(i: number) {
  const levels = traits.value[i]!.levels
  levels.unshift({ points: (levels[0]?.points ?? 0) + 1, text: '' })
}
</script>

<template>
  <div v-for="(t, i) in traits" :key="i" class="trait">
    <div class="row">
      <label class="short name">Trait <input v-model.lazy="t.name" maxlength="200" /></label>
      <button type="button" class="link-button" @click="dropTrait(i)">Remove</button>
    </div>
    <div v-for="(l, k) in t.levels" :key="k" class="level">
      <input
        v-model.number.lazy="l.points"
        type="number"
        min="0"
        step="0.5"
        :aria-label="`Points of level ${k + 1} of ${t.name || 'the trait'}`"
      />
      <input
        v-model.lazy="l.text"
        maxlength="2000"
        placeholder="What an answer of this level does"
        :aria-label="`Level ${k + 1} of ${t.name || 'the trait'}`"
      />
      <button type="button" class="link-button" :disabled="t.levels.length < 3" @click="t.levels.splice(k, 1)">Remove</button>
    </div>
    <button type="button" class="link-button" @click="addLevel(i)">Add a level above</button>
  </div>
  <Button label="Add a trait" size="small" severity="secondary" outlined @click="addTrait" />
</template>

<style scoped>
.trait .row {
  flex-wrap: nowrap;
}
.trait label.name {
  flex: 1;
}
.trait label.name input {
  flex: 1;
  width: auto;
}
.trait {
  padding-bottom: 8px;
  margin-bottom: 8px;
  border-bottom: 1px solid var(--rule);
}
.level {
  display: flex;
  gap: 6px;
  margin: 4px 0;
}
.level input:nth-child(2) {
  flex: 1;
}
.level input[type='number'] {
  width: 64px;
}
</style>
