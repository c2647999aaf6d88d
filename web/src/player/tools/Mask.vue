<script setup lang="ts">
import { useMoved } from './useMoved'
import { t } from '@/words'

/** A sheet that covers a part of the page. */
const emit = defineEmits<{ close: [] }>()
const { place, take, onKey } = useMoved(
  { x: 120, y: Math.max(120, window.innerHeight - 360), turn: 0, width: 480, height: 180 },
  { grow: true },
)
</script>

<template>
  <div
    class="mask"
    role="group"
    tabindex="0"
    :aria-label="t('tools.mask')"
    :aria-description="t('tools.maskKeys')"
    :style="{ left: `${place.x}px`, top: `${place.y}px`, width: `${place.width}px`, height: `${place.height}px` }"
    @pointerdown="take($event)"
    @keydown="onKey"
    @keydown.esc.stop="emit('close')"
  >
    <span>{{ t('tools.maskKeys') }}</span>
    <span class="corner" aria-hidden="true" @pointerdown.stop="take($event, 'grow')" />
  </div>
</template>

<style scoped>
.mask {
  position: fixed;
  z-index: 5;
  display: grid;
  place-items: end start;
  padding: 10px 14px;
  background: var(--tint-strong);
  border: 2px solid var(--ink-soft);
  color: var(--ink);
  font-size: 14px;
  cursor: move;
  touch-action: none;
}
.mask:focus {
  outline: 3px solid var(--slate);
}
.corner {
  position: absolute;
  right: 0;
  bottom: 0;
  width: 44px;
  height: 44px;
  cursor: nwse-resize;
  background: linear-gradient(135deg, transparent 60%, var(--ink-soft) 60%);
}
</style>
