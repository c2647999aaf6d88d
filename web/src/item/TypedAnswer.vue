<script setup lang="ts">
import { computed, useId } from 'vue'
import { t } from '@/words'

/** A typed number or word. It is read and compared on the server; any spelling may be typed. */
const typed = defineModel<string>({ required: true })
const props = defineProps<{
  unit?: string
  number?: boolean
  inline?: boolean
  readOnly?: boolean
  correct?: string[]
  describedBy: string
}>()
const hint = computed(() => props.number && !props.inline && !props.readOnly)
const hintId = useId()
</script>

<template>
  <div class="typed" :class="{ inline }">
    <input
      v-model="typed"
      type="text"
      inputmode="text"
      autocomplete="off"
      spellcheck="false"
      maxlength="60"
      :disabled="readOnly"
      :aria-labelledby="hint ? `${describedBy} ${hintId}` : describedBy"
    />
    <span v-if="unit" class="unit">{{ unit }}</span>
    <span v-if="hint" :id="hintId" class="hint">{{ t('item.number') }}</span>
    <span v-if="correct" class="is-key">{{ t('item.keys', { list: correct.join(t('item.or')) }) }}</span>
  </div>
</template>

<style scoped>
.typed {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.inline {
  display: inline-flex;
  vertical-align: middle;
  margin: 4px;
}
input {
  font: inherit;
  font-size: 1.1em;
  width: 190px;
  min-height: 48px;
  padding: 0 14px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: inherit;
}
input:focus {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
</style>
