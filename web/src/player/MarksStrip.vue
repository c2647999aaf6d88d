<script setup lang="ts">
import { useTemplateRef, watch } from 'vue'

/** One square cell an item, as in a ledger row: filled when answered, a folded corner when marked, a heavy line where you are. */
const props = defineProps<{
  answered: boolean[]
  marked: boolean[]
  at: number
  /** Items with which a part begins. */ starts?: boolean[]
}>()
const emit = defineEmits<{ go: [line: number] }>()

// On a narrow screen the strip is one row that scrolls.
const strip = useTemplateRef('strip')
watch(
  () => props.at,
  () => strip.value?.querySelector('[aria-current]')?.scrollIntoView({ inline: 'center', block: 'nearest' }),
  { flush: 'post', immediate: true },
)

function words(i: number, answered: boolean, marked: boolean, here: boolean) {
  return [`Item ${i + 1}`, answered ? 'answered' : 'not answered', marked && 'marked for later', here && 'you are here']
    .filter(Boolean)
    .join(', ')
}
</script>

<template>
  <nav ref="strip" aria-label="Items">
    <ol>
      <li v-for="(done, i) in answered" :key="i" :class="{ start: starts?.[i] }">
        <button
          type="button"
          :class="{ done, marked: marked[i], here: i + 1 === at }"
          :aria-label="words(i, done, !!marked[i], i + 1 === at)"
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
button:focus-visible {
  outline: 3px solid var(--slate);
  z-index: 1;
}
</style>
