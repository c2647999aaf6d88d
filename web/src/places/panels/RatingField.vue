<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { none } from './useJudging'
import { readShare } from './share'

/**
 * The share of a line's points, typed. In tens one key is enough: 4 is 40%, and x is 100%; in hundredths a number is typed and
 * Enter goes on. Arrows go from field to field.
 */
const props = defineProps<{ label: string; value: number; tens: boolean; disabled: boolean }>()
const emit = defineEmits<{ give: [value: number]; go: [down: number, right: number]; look: [] }>()
const typed = ref<string>()
const wrong = ref(false)
const field = useTemplateRef('field')
const shown = computed(() => typed.value ?? (props.value === none ? '' : String(props.value)))

function settle(): boolean {
  if (typed.value === undefined) return true
  const value = readShare(typed.value)
  wrong.value = value === undefined
  if (value === undefined) return false
  typed.value = undefined
  emit('give', value)
  return true
}
function onKey(e: KeyboardEvent) {
  if (e.altKey || e.ctrlKey || e.metaKey) return
  const to = { ArrowDown: [1, 0], ArrowUp: [-1, 0], Enter: [1, 0] }[e.key]
  if (to) {
    e.preventDefault()
    if (settle()) emit('go', to[0]!, to[1]!)
    return
  }
  if (e.key === 'Escape' && typed.value !== undefined) {
    e.preventDefault()
    typed.value = undefined
    wrong.value = false
    return
  }
  if (!props.tens || props.disabled) return
  if (/^[0-9x]$/i.test(e.key)) {
    e.preventDefault()
    emit('give', e.key.toLowerCase() === 'x' ? 100 : Number(e.key) * 10)
    emit('go', 1, 0)
  } else if (e.key === 'Backspace' || e.key === 'Delete') {
    e.preventDefault()
    emit('give', none)
  }
}
defineExpose({ focus: () => (field.value?.focus(), field.value?.select()) })
</script>

<template>
  <input
    ref="field"
    class="p-inputtext p-component"
    :class="{ wrong }"
    :value="shown"
    :aria-label="label"
    :aria-invalid="wrong"
    :title="wrong ? 'Type a share from 0 to 100%' : undefined"
    :readonly="disabled"
    inputmode="decimal"
    autocomplete="off"
    @focus="(($event.target as HTMLInputElement).select(), emit('look'))"
    @input="typed = ($event.target as HTMLInputElement).value"
    @keydown="onKey"
    @blur="settle()"
  />
</template>

<style scoped>
input {
  width: 58px;
  height: 26px;
  padding: 0 7px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.wrong {
  border-color: var(--brick);
}
</style>
