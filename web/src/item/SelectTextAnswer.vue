<script setup lang="ts">
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { t } from '@/words'

/** Words or sentences to be selected in a text; each that can be is a button in its line. */
defineOptions({ inheritAttrs: false })
const selected = defineModel<string[]>({ required: true })
const props = defineProps<{
  choices: Schemas['Choice'][]
  most: number
  readOnly?: boolean
  correct?: string[]
  describedBy: string
}>()

const shown = computed(() => props.correct ?? selected.value)
const full = computed(() => props.most > 0 && selected.value.length >= props.most)

function toggle(id: string) {
  if (selected.value.includes(id)) selected.value = selected.value.filter((s) => s !== id)
  else if (!full.value) selected.value = [...selected.value, id]
}
</script>

<template>
  <div role="group" :aria-labelledby="describedBy">
    <p class="running">
      <template v-for="(c, i) in choices" :key="i"
        ><SafeHtml v-if="c.plain" :html="c.html" tag="span" /><button
          v-else
          type="button"
          :class="{ selected: shown.includes(c.id) }"
          :aria-pressed="shown.includes(c.id)"
          :disabled="readOnly || (full && !selected.includes(c.id))"
          @click="toggle(c.id)"
        >
          <SafeHtml :html="c.html" tag="span" /></button
      ></template>
    </p>
    <p v-if="correct" class="is-key">{{ t('item.key') }}</p>
    <p v-else-if="!readOnly" class="hint">
      {{ most ? t('item.selectedOf', { n: selected.length, most }) : t('item.selected', { n: selected.length }) }}
    </p>
  </div>
</template>

<style scoped>
.running {
  margin: 0;
  line-height: 2.3;
}
button {
  display: inline;
  font: inherit;
  line-height: 1.7;
  color: inherit;
  text-align: left;
  padding: 3px 6px;
  border: 1px dashed var(--rule-strong);
  background: var(--paper);
  cursor: pointer;
}
button:hover:enabled {
  background: var(--tint);
}
button:disabled {
  cursor: default;
}
.selected {
  border: 1px solid var(--pine-deep);
  background: var(--pine);
  color: var(--on-pine);
}
.selected:hover:enabled {
  background: var(--pine-deep);
}
button:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
</style>
