<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { plural } from '@/contract/format'
import { withPool, type Arrangement } from './layout'
import { movedTogether, weighed } from './lines'

/** What can be done with several lines at once; undo takes it back as one change. */
const props = defineProps<{
  items: number[]
  lines: number
  arrange: (make: (now: Arrangement) => Arrangement) => Promise<boolean>
}>()
const emit = defineEmits<{ clear: [] }>()
const before = ref<number>()
const points = ref<number>()
const choose = ref<number>()

function move() {
  if (before.value)
    void props.arrange((now) => ({ ...now, lines: movedTogether(now.lines, props.items, before.value! - 1, now.layout) }))
}
function weigh() {
  if (points.value && points.value > 0)
    void props.arrange((now) => ({ ...now, lines: weighed(now.lines, props.items, points.value!) }))
}
async function takeOff() {
  const items = props.items
  if (await props.arrange((now) => ({ ...now, lines: now.lines.filter((x) => !items.includes(x.itemId)) }))) emit('clear')
}
async function pool() {
  if (choose.value && (await props.arrange((now) => withPool(now, props.items, choose.value!)))) emit('clear')
}
</script>

<template>
  <div class="marked" role="group" aria-label="Marked lines">
    <strong aria-live="polite">{{ plural(items.length, 'line') }} marked</strong>
    <button type="button" class="link-button" @click="emit('clear')">none</button>
    <form @submit.prevent="move">
      <label>before line <input v-model.number="before" type="number" min="1" :max="lines + 1" /></label>
      <Button type="submit" label="Move" size="small" severity="secondary" outlined :disabled="!before" />
    </form>
    <form @submit.prevent="weigh">
      <label>points each <input v-model.number="points" type="number" min="0.25" max="100" step="0.25" /></label>
      <Button type="submit" label="Set" size="small" severity="secondary" outlined :disabled="!points" />
    </form>
    <form @submit.prevent="pool">
      <label>each student gets <input v-model.number="choose" type="number" min="1" :max="items.length" /> of these</label>
      <Button type="submit" label="Make a pool" size="small" severity="secondary" outlined :disabled="!choose" />
    </form>
    <Button label="Remove" size="small" severity="secondary" outlined @click="takeOff" />
  </div>
</template>

<style scoped>
.marked,
form {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
.marked {
  padding: 6px 10px;
  background: var(--tint);
  border: 1px solid var(--rule);
}
form {
  gap: 6px;
}
input {
  width: 58px;
  height: 28px;
  text-align: right;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
}
</style>
