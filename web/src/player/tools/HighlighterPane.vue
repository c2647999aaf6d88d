<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import Pane from './Pane.vue'
import { paint, rangeOf, sentencesOf, stretchOf, type Stretch } from './ranges'
import type { Highlights, Region } from './useHighlights'
import { t } from '@/words'

/** Words that are selected are highlighted; without a mouse one goes from sentence to sentence. */
const props = defineProps<{ highlights: Highlights }>()
const emit = defineEmits<{ close: [] }>()
const changed = ref(0)
const listed = computed(() => {
  void changed.value
  return props.highlights
    .regions()
    .flatMap((r) => props.highlights.of(r).map((s) => ({ r, s, words: props.highlights.words(r, s) })))
})

function mark(r: Region, s: Stretch) {
  props.highlights.add(r, s)
  changed.value++
}
function unmark(r: Region, s: Stretch) {
  props.highlights.remove(r, s)
  changed.value++
}
useEventListener(document, 'pointerup', () => {
  const selection = document.getSelection()
  if (!selection || selection.isCollapsed || !selection.rangeCount) return
  const range = selection.getRangeAt(0)
  for (const r of props.highlights.regions()) {
    const s = stretchOf(r.el, range)
    if (s) mark(r, s)
  }
  selection.removeAllRanges()
})

/** The sentence that the keys are at. */
const at = ref(-1)
const sentences = () => props.highlights.regions().flatMap((r) => sentencesOf(r.el).map((s) => ({ r, s })))
const said = ref('')
function step(by: number) {
  const all = sentences()
  if (!all.length) return
  at.value = (at.value + by + all.length) % all.length
  const { r, s } = all[at.value]!
  const range = rangeOf(r.el, s)
  paint('pine-at', range ? [range] : [])
  range?.startContainer.parentElement?.scrollIntoView({ block: 'nearest' })
  said.value = props.highlights.words(r, s)
}
function markSentence() {
  const one = sentences()[at.value]
  if (one) mark(one.r, one.s)
}
onBeforeUnmount(() => paint('pine-at', []))
</script>

<template>
  <Pane :title="t('tools.highlighter')" @close="emit('close')">
    <p>{{ t('tools.selectToMark') }}</p>
    <div class="row">
      <button type="button" class="quiet small" @click="step(-1)">{{ t('tools.sentenceBefore') }}</button>
      <button type="button" class="quiet small" autofocus @click="step(1)">{{ t('tools.sentenceNext') }}</button>
      <button type="button" class="quiet small" :disabled="at < 0" @click="markSentence">{{ t('tools.markSentence') }}</button>
    </div>
    <p class="out-of-sight" aria-live="polite">{{ said }}</p>
    <ul :aria-label="t('tools.marked')">
      <li v-for="(h, i) in listed" :key="i">
        <span>{{ h.words }}</span>
        <button type="button" class="quiet small" :aria-label="t('tools.unmark', { words: h.words })" @click="unmark(h.r, h.s)">
          {{ t('tools.remove') }}
        </button>
      </li>
    </ul>
  </Pane>
</template>

<style scoped>
p {
  margin: 0 0 8px;
  font-size: 15px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
button.small {
  padding: 0 12px;
  font-size: 15px;
}
ul {
  margin: 10px 0 0;
  padding: 0;
  list-style: none;
  max-height: 220px;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: center;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
li span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  background: var(--mark);
  color: var(--on-mark);
  padding: 0 4px;
}
</style>
