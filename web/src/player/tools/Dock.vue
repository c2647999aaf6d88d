<script setup lang="ts">
import type { Schemas } from '@/contract/client'
import type { How } from '../how'
import type { Supports } from '../supports'
import type { Asides } from '../useAsides'
import { panes } from './Bench.vue'
import { defineAsyncComponent } from 'vue'
import type { Highlights } from './useHighlights'
import { overlays, type ToolName } from './tools'
import { t } from '@/words'

/** The tools that are open: those beside the work in a column of their own, so that none covers the question, and those that lie over it. */
const props = defineProps<{
  how: How
  open: ToolName[]
  calculator?: 'basic' | 'percent' | 'scientific'
  shown?: Schemas['Shown']
  supports: Supports
  asides: Asides
  highlights: Highlights
  page: () => HTMLElement | null
}>()
const emit = defineEmits<{ close: [tool: ToolName]; supports: [part: Partial<Supports>] }>()
const LineReader = defineAsyncComponent(() => import('./LineReader.vue'))
const Mask = defineAsyncComponent(() => import('./Mask.vue'))
const Measure = defineAsyncComponent(() => import('./Measure.vue'))
const beside = () => props.open.filter((tool) => !overlays.includes(tool))
</script>

<template>
  <section v-if="beside().length" class="dock" :aria-label="t('tools.open')">
    <template v-for="tool in beside()" :key="tool">
      <component
        :is="panes.calculator"
        v-if="tool === 'calculator' && calculator"
        :kind="calculator"
        @close="emit('close', tool)"
      />
      <component :is="panes.pad" v-else-if="tool === 'pad'" :asides="asides" @close="emit('close', tool)" />
      <component
        :is="panes.highlighter"
        v-else-if="tool === 'highlighter'"
        :highlights="highlights"
        @close="emit('close', tool)"
      />
      <component
        :is="panes.aloud"
        v-else-if="tool === 'aloud'"
        :parts="how.tools.readAloud"
        :page="page"
        @close="emit('close', tool)"
      />
      <component :is="panes.table" v-else-if="tool === 'table'" @close="emit('close', tool)" />
      <component :is="panes.dictionary" v-else-if="tool === 'dictionary'" @close="emit('close', tool)" />
      <component :is="panes.glossary" v-else-if="tool === 'glossary' && shown" :shown="shown" @close="emit('close', tool)" />
      <component
        :is="panes.screen"
        v-else-if="tool === 'screen'"
        :tools="how.tools"
        :supports="supports"
        @close="emit('close', tool)"
        @supports="emit('supports', $event)"
      />
    </template>
  </section>
  <LineReader v-if="open.includes('reader')" />
  <Mask v-if="open.includes('mask')" @close="emit('close', 'mask')" />
  <Measure v-if="open.includes('ruler')" kind="ruler" :print="supports.print" @close="emit('close', 'ruler')" />
  <Measure v-if="open.includes('protractor')" kind="protractor" :print="supports.print" @close="emit('close', 'protractor')" />
</template>

<style scoped>
.dock {
  width: 340px;
  overflow: auto;
  border-left: 1px solid var(--rule-strong);
  background: var(--board);
}
@media (max-width: 900px) {
  .dock {
    width: auto;
    max-height: 46vh;
    border-left: 0;
    border-top: 2px solid var(--rule-strong);
  }
}
</style>
