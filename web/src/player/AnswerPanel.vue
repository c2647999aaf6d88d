<script setup lang="ts">
import { IconBookmark } from '@tabler/icons-vue'
import { nextTick, ref, watch } from 'vue'
import type { Schemas } from '@/contract/client'
import ItemBody from '@/item/ItemBody.vue'
import PartDirections from './PartDirections.vue'
import { t } from '@/words'

/** The questions of a document, all in one list beside its pages. */
const props = defineProps<{
  lines: { shown: Schemas['Shown']; part: number }[]
  parts: Schemas['TestPart'][]
  answers: { response: Record<string, string[]>; marked: boolean }[]
  /** The question to bring into view, from 1. */
  at: number
}>()
const emit = defineEmits<{
  answer: [line: number, response: Record<string, string[]>]
  mark: [line: number, marked: boolean]
  at: [line: number]
}>()

const list = ref<HTMLElement>()
watch(
  () => props.at,
  async (line) => {
    await nextTick()
    const row = list.value?.querySelectorAll<HTMLElement>('li')[line - 1]
    if (!row || row.contains(document.activeElement)) return
    row.scrollIntoView({ block: 'center' })
    row.querySelector<HTMLElement>('input, textarea, button')?.focus({ preventScroll: true })
  },
)
</script>

<template>
  <ol ref="list" class="panel">
    <li v-for="(l, i) in lines" :key="i" :class="{ here: i + 1 === at }" @focusin="emit('at', i + 1)">
      <PartDirections
        v-if="l.part && l.part !== lines[i - 1]?.part && parts[l.part - 1]"
        class="whole"
        :part="parts[l.part - 1]!"
        open
      />
      <h2 :id="`question-${i + 1}`" class="out-of-sight">{{ t('work.question', { n: i + 1, of: lines.length }) }}</h2>
      <ItemBody
        :shown="l.shown"
        :name="`line-${i + 1}`"
        :labelled-by="`question-${i + 1}`"
        :model-value="answers[i]!.response"
        @update:model-value="emit('answer', i + 1, $event)"
      />
      <button
        type="button"
        class="quiet mark"
        :aria-pressed="answers[i]!.marked"
        :aria-label="t('work.markQuestion', { n: i + 1 })"
        :title="t(answers[i]!.marked ? 'work.marked' : 'work.mark')"
        @click="emit('mark', i + 1, !answers[i]!.marked)"
      >
        <IconBookmark :size="18" stroke="1.6" aria-hidden="true" />
      </button>
    </li>
  </ol>
</template>

<style scoped>
.panel {
  list-style: none;
  margin: 0;
  padding: 8px 20px 40px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: start;
  padding: 12px 0 12px 12px;
  border-bottom: 1px solid var(--rule);
  border-left: 3px solid transparent;
}
.here {
  border-left-color: var(--pine);
}
.whole {
  grid-column: 1 / -1;
}
.mark {
  width: 44px;
  padding: 0;
  justify-content: center;
}
.mark[aria-pressed='true'] {
  background: var(--fold);
}
</style>
