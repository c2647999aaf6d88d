<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { t } from '@/words'

/**
 * A bar that leaves one line free and veils what is above and below. It follows the pointer, or the arrow keys while it has the focus; a
 * finger draws it by its grip, for elsewhere it moves the page.
 */
const middle = ref(Math.round(window.innerHeight / 3))
const height = 44
const step = 12
function to(y: number) {
  middle.value = Math.max(height, Math.min(window.innerHeight - height, y))
}
useEventListener(document, 'pointermove', (e) => to(e.clientY))
function onKey(e: KeyboardEvent) {
  if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return
  to(middle.value + (e.key === 'ArrowUp' ? -step : step))
  e.preventDefault()
}
</script>

<template>
  <section :aria-label="t('tools.reader')">
    <div class="veil" :style="{ top: 0, height: `${middle - height / 2}px` }" />
    <div
      class="slot"
      role="slider"
      tabindex="0"
      :aria-label="t('tools.reader')"
      aria-orientation="vertical"
      :aria-valuenow="middle"
      :style="{ top: `${middle - height / 2}px`, height: `${height}px` }"
      @keydown="onKey"
    >
      <span class="grip" aria-hidden="true">⇕</span>
    </div>
    <div class="veil" :style="{ top: `${middle + height / 2}px`, bottom: 0 }" />
  </section>
</template>

<style scoped>
.veil,
.slot {
  position: fixed;
  left: 0;
  right: 0;
  z-index: 4;
  pointer-events: none;
}
.veil {
  background: var(--ink);
  opacity: 0.32;
}
.slot {
  border-block: 2px solid var(--slate);
}
.grip {
  display: none;
  position: absolute;
  right: 8px;
  top: -2px;
  width: 44px;
  height: 44px;
  place-content: center;
  font-size: 22px;
  color: var(--slate);
  background: var(--paper);
  border: 2px solid var(--slate);
  pointer-events: auto;
  touch-action: none;
}
@media (any-pointer: coarse) {
  .grip {
    display: grid;
  }
}
</style>
