<script setup lang="ts">
import { ref, useId, watch } from 'vue'

/** A cut typed as percent or points. What cannot be one stays as it was typed, with the reason below. */
const props = defineProps<{ label: string; value?: number; most?: number; unit: string; strong: boolean; disabled?: boolean }>()
const emit = defineEmits<{ set: [value: number] }>()
const shown = () => (props.value === undefined ? '' : String(props.value))
const typed = ref(shown())
const wrong = ref('')
const id = useId()
watch(
  () => props.value,
  () => {
    if (!wrong.value) typed.value = shown()
  },
)
function commit() {
  const text = typed.value.trim().replace(/\s*%$/, '')
  if (text === shown()) return void (wrong.value = '')
  const value = Number(text)
  const faults: [boolean, string][] = [
    [text === '' || !/^\d+(\.\d+)?$/.test(text), `Type a number of ${props.unit}.`],
    [/\.\d{3,}/.test(text), 'Use at most two decimal places.'],
    [props.most !== undefined && value > props.most, `Use at most ${props.most}.`],
  ]
  wrong.value = faults.find(([is]) => is)?.[1] ?? ''
  if (!wrong.value) emit('set', value)
}
function giveUp() {
  typed.value = shown()
  wrong.value = ''
}
</script>

<template>
  <input
    v-model="typed"
    :class="{ strong }"
    inputmode="decimal"
    :aria-label="label"
    :aria-invalid="!!wrong"
    :aria-describedby="wrong ? id : undefined"
    :disabled="disabled"
    @change="commit"
    @keydown.esc.stop="giveUp"
  />
  <span v-if="wrong" :id="id" class="wrong" role="alert">{{ wrong }}</span>
</template>

<style scoped>
input {
  width: 76px;
  height: 26px;
  text-align: right;
  font-variant-numeric: tabular-nums;
  border: 1px solid var(--rule);
  background: var(--paper);
  color: var(--ink);
  border-radius: 3px;
  padding: 0 6px;
}
input.strong {
  font-weight: 700;
}
input:disabled {
  border-color: transparent;
}
.wrong {
  display: block;
  color: var(--brick);
  font-size: 12px;
  white-space: normal;
}
</style>
