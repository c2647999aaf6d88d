<script setup lang="ts">
import { computed, useTemplateRef, watch } from 'vue'
import { t } from '@/words'

/** One square cell an item, as in a ledger row: filled when answered, a folded corner when marked, a heavy line where you are. */
const props = defineProps<{
  answered: boolean[]
  marked: boolean[]
  at: number
  /** Items with which a part begins. */ starts?: boolean[]
  /** Only where one is can be reached. */ fixed?: boolean
}>()
const emit = defineEmits<{ go: [line: number] }>()

// On a narrow screen the strip is one row that scrolls.
const strip = useTemplateRef('strip')
watch(
  () => props.at,
  () => {
    const here = strip.value?.querySelector<HTMLElement>('[aria-current]')
    if (here) strip.value!.scrollLeft = here.offsetLeft - (strip.value!.clientWidth - here.offsetWidth) / 2
  },
  { flush: 'post', immediate: true },
)

/** The strip is one stop of the Tab key; arrows move within it. */
const stop = computed(() => Math.max(1, props.at))
function onKey(e: KeyboardEvent) {
  const cells = [...(strip.value?.querySelectorAll('button') ?? [])]
  const from = cells.findIndex((c) => c === e.target)
  const to = { ArrowRight: from + 1, ArrowLeft: from - 1, Home: 0, End: cells.length - 1 }[e.key]
  if (to === undefined) return
  cells[Math.max(0, Math.min(cells.length - 1, to))]?.focus()
  e.preventDefault()
}

function words(i: number, answered: boolean, marked: boolean, here: boolean) {
  return [
    t('strip.item', { n: i + 1 }),
    t(answered ? 'strip.answered' : 'strip.notAnswered'),
    marked && t('strip.marked'),
    here && t('strip.here'),
  ]
    .filter(Boolean)
    .join(', ')
}
</script>

<template>
  <nav ref="strip" :aria-label="t('strip.items')" @keydown="onKey">
    <ol>
      <li v-for="(done, i) in answered" :key="i" :class="{ start: starts?.[i] }">
        <button
          type="button"
          :tabindex="i + 1 === stop ? 0 : -1"
          :class="{ done, marked: marked[i], here: i + 1 === at }"
          :aria-label="words(i, done, !!marked[i], i + 1 === at)"
          :disabled="fixed && i + 1 !== at"
          :aria-current="i + 1 === at ? 'step' : undefined"
          @click="emit('go', i + 1)"
        >
          {{ i + 1 }}
        </button>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
nav {
  position: relative;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  row-gap: 6px;
}
.start {
  margin-left: 14px;
}
button {
  position: relative;
  width: 44px;
  height: 44px;
  margin-left: -1px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: var(--ink);
  font: 500 14px var(--reading);
  cursor: pointer;
}
@media (max-width: 800px) {
  nav {
    overflow-x: auto;
    padding: 3px 4px;
  }
  ol {
    flex-wrap: nowrap;
    justify-content: safe center;
  }
}
button.done {
  background: var(--pine);
  color: var(--on-pine);
  border-color: var(--pine-deep);
}
button.here {
  box-shadow: inset 0 -6px 0 var(--ink);
  font-weight: 700;
}
button.done.here {
  box-shadow:
    inset 0 -6px 0 var(--ink),
    inset 0 -8px 0 var(--paper);
}
button.marked::after {
  content: '';
  position: absolute;
  top: 0;
  right: 0;
  border-style: solid;
  border-width: 0 13px 13px 0;
  border-color: transparent var(--fold) transparent transparent;
}
@media (forced-colors: active) {
  button.done {
    forced-color-adjust: none;
    background: Highlight;
    color: HighlightText;
  }
  button.here {
    border: 4px solid CanvasText;
  }
  button.marked::after {
    forced-color-adjust: none;
    border-color: transparent CanvasText transparent transparent;
  }
}
button:focus-visible {
  outline: 3px solid var(--slate);
  z-index: 1;
}
</style>
