<script setup lang="ts">
import {
  IconAbacus,
  IconAngle,
  IconBook2,
  IconCalculator,
  IconCoffee,
  IconEyeOff,
  IconHighlight,
  IconLanguage,
  IconNote,
  IconRuler,
  IconRuler2,
  IconTextSize,
  IconVolume,
} from '@tabler/icons-vue'
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, type Component } from 'vue'
import type { How } from '../how'
import { keys, toolOf, type ToolName } from './tools'
import { t } from '@/words'

/** The tools that a student has now, a button and a key each. What is open shows pressed; what this item is answered without is named. */
const props = defineProps<{ how: How; tools: ToolName[]; notHere: ToolName[]; open: ToolName[]; mayRest: boolean }>()
const emit = defineEmits<{ toggle: [tool: ToolName]; rest: [] }>()
const icons: Record<ToolName, Component> = {
  calculator: IconCalculator,
  pad: IconNote,
  highlighter: IconHighlight,
  aloud: IconVolume,
  reader: IconRuler2,
  mask: IconEyeOff,
  ruler: IconRuler,
  protractor: IconAngle,
  table: IconAbacus,
  dictionary: IconBook2,
  glossary: IconLanguage,
  screen: IconTextSize,
}
const name = (tool: ToolName) => (tool === 'calculator' ? t('work.calculator') : t(`tools.${tool}`))
const kept = computed(() => props.notHere.map(name).join(', '))
const rests = computed(() => props.mayRest && props.how.breaksLeft > 0)
useEventListener(document, 'keydown', (e) => {
  const tool = toolOf(e)
  if (!tool || !props.tools.includes(tool)) return
  e.preventDefault()
  emit('toggle', tool)
})
</script>

<script lang="ts">
/** What stands beside the work, loaded when it is used. */
export const panes = {
  calculator: defineAsyncComponent(() => import('./CalculatorPad.vue')),
  pad: defineAsyncComponent(() => import('./ScratchPad.vue')),
  highlighter: defineAsyncComponent(() => import('./HighlighterPane.vue')),
  aloud: defineAsyncComponent(() => import('./AloudPane.vue')),
  table: defineAsyncComponent(() => import('./TimesTable.vue')),
  dictionary: defineAsyncComponent(() => import('./Dictionary.vue')),
  glossary: defineAsyncComponent(() => import('./Glossary.vue')),
  screen: defineAsyncComponent(() => import('./ScreenPane.vue')),
}
</script>

<template>
  <section v-if="tools.length || kept || rests" class="bar" :aria-label="t('tools.name')">
    <button
      v-for="tool in tools"
      :key="tool"
      type="button"
      class="quiet small"
      :aria-pressed="open.includes(tool)"
      :aria-keyshortcuts="`Alt+Shift+${keys[tool]}`"
      :title="`${name(tool)} (Alt + Shift + ${keys[tool]})`"
      @click="emit('toggle', tool)"
    >
      <component :is="icons[tool]" :size="20" stroke="1.6" aria-hidden="true" />{{ name(tool) }}
    </button>
    <span v-if="kept" class="not-here" role="status">{{ t('tools.notHere', { tools: kept }) }}</span>
    <button v-if="rests" type="button" class="quiet small" @click="emit('rest')">
      <IconCoffee :size="20" stroke="1.6" aria-hidden="true" />{{ t('tools.rest', { n: how.breaksLeft }, how.breaksLeft) }}
    </button>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 6px 28px;
  border-bottom: 1px solid var(--rule);
  background: var(--board);
  position: relative;
  z-index: 6; /* over what lies over the page */
}
@media (max-width: 600px) {
  .bar {
    padding: 6px 14px;
  }
}
.not-here {
  align-self: center;
  font-size: 15px;
  color: var(--ink-soft);
}
button.small {
  padding: 0 12px;
  font-size: 15px;
}
</style>
