<script setup lang="ts">
import type { Tools } from '../how'
import { contrasts, prints, type Supports } from '../supports'
import Pane from './Pane.vue'
import { t } from '@/words'

/** How large, in which colors and how far apart everything is. */
const props = defineProps<{ tools: Tools; supports: Supports }>()
const emit = defineEmits<{ close: []; supports: [part: Partial<Supports>] }>()
const at = () => prints.indexOf(props.supports.print)
const size = (by: number) => emit('supports', { print: prints[Math.max(0, Math.min(prints.length - 1, at() + by))]! })
const named = { '': 'usual', 'light-on-dark': 'lightOnDark', 'dark-on-yellow': 'darkOnYellow', 'dark-on-blue': 'darkOnBlue' }
</script>

<template>
  <Pane :title="t('tools.screen')" @close="emit('close')">
    <div v-if="tools.zoom" class="row" role="group" :aria-label="t('tools.print')">
      <button type="button" class="quiet" :disabled="at() === 0" :aria-label="t('tools.smaller')" @click="size(-1)">A−</button>
      <output aria-live="polite">{{ supports.print * 100 }}%</output>
      <button type="button" class="quiet" :disabled="at() === prints.length - 1" :aria-label="t('tools.larger')" @click="size(1)">
        A+
      </button>
    </div>
    <fieldset v-if="tools.colors">
      <legend>{{ t('tools.colors') }}</legend>
      <label v-for="c in contrasts" :key="c" :data-contrast="c || undefined" class="student choice">
        <input
          type="radio"
          name="colors"
          :value="c"
          :checked="supports.contrast === c"
          @change="emit('supports', { contrast: c })"
        />
        {{ t(`tools.contrast.${named[c]}`) }}
      </label>
    </fieldset>
    <label v-if="tools.easyType" class="choice">
      <input
        type="checkbox"
        :checked="supports.spaced"
        @change="emit('supports', { spaced: ($event.target as HTMLInputElement).checked })"
      />
      {{ t('tools.spaced') }}
    </label>
  </Pane>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 12px;
}
.row button {
  padding: 0 16px;
}
output {
  min-width: 54px;
  text-align: center;
  font-variant-numeric: tabular-nums;
}
fieldset {
  margin: 12px 0 6px;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  margin-bottom: 4px;
}
.choice {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  padding: 0 10px;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--rule-strong);
}
.choice + .choice {
  border-top: 0;
}
.choice input {
  width: 20px;
  height: 20px;
  accent-color: var(--pine);
}
fieldset + .choice {
  margin-top: 10px;
}
</style>
