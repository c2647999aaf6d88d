<script setup lang="ts">
import { IconCalculator, IconCoffee, IconNote, IconRuler2, IconTextResize } from '@tabler/icons-vue'
import { t } from '@/words'
import type { How } from './how'
import { contrasts, prints, type Supports } from './supports'

/** The tools that everyone has here, a button each. */
const props = defineProps<{ how: How; calculator: boolean; open: string[]; supports: Supports; mayRest: boolean }>()
const emit = defineEmits<{ toggle: [tool: 'calculator' | 'pad' | 'reader']; supports: [part: Partial<Supports>]; rest: [] }>()
const next = <T,>(list: readonly T[], now: T) => list[(list.indexOf(now) + 1) % list.length]!
const larger = () => emit('supports', { print: next(prints.slice(0, 3), props.supports.print) })
const colors = () => emit('supports', { contrast: next(contrasts, props.supports.contrast) })
</script>

<template>
  <section class="bar" :aria-label="t('tools.name')">
    <button
      v-if="calculator"
      type="button"
      class="quiet small"
      :aria-pressed="open.includes('calculator')"
      @click="emit('toggle', 'calculator')"
    >
      <IconCalculator :size="20" stroke="1.6" aria-hidden="true" />{{ t('work.calculator') }}
    </button>
    <button
      v-if="how.scratchPad"
      type="button"
      class="quiet small"
      :aria-pressed="open.includes('pad')"
      @click="emit('toggle', 'pad')"
    >
      <IconNote :size="20" stroke="1.6" aria-hidden="true" />{{ t('tools.pad') }}
    </button>
    <button
      v-if="how.lineReader"
      type="button"
      class="quiet small"
      :aria-pressed="open.includes('reader')"
      @click="emit('toggle', 'reader')"
    >
      <IconRuler2 :size="20" stroke="1.6" aria-hidden="true" />{{ t('tools.reader') }}
    </button>
    <button
      v-if="how.zoom"
      type="button"
      class="quiet small"
      :aria-label="t('tools.larger', { n: supports.print * 100 })"
      :title="t('tools.larger', { n: supports.print * 100 })"
      @click="larger"
    >
      <IconTextResize :size="20" stroke="1.6" aria-hidden="true" />{{ supports.print * 100 }}%
    </button>
    <button v-if="how.colors" type="button" class="quiet small" :aria-pressed="!!supports.contrast" @click="colors">
      {{ t('tools.colors') }}
    </button>
    <button v-if="mayRest && how.breaksLeft" type="button" class="quiet small" @click="emit('rest')">
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
  z-index: 6; /* over the line reader */
}
.bar:empty {
  display: none;
}
@media (max-width: 600px) {
  .bar {
    padding: 6px 14px;
  }
}
button.small {
  padding: 0 12px;
  font-size: 15px;
}
</style>
