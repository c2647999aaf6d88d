<script setup lang="ts">
import { nextTick, useTemplateRef } from 'vue'
import BandSwatch from '@/parts/BandSwatch.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'

/** The booklet from the easiest entry to the hardest; a mark of each cut stands at the last that a student at it would reach. */
const props = defineProps<{ asked: Schemas['PanelAsked']; marks: number[]; disabled: boolean; at: number }>()
const emit = defineEmits<{ mark: [cut: number, place: number]; look: [line: number] }>()
const table = useTemplateRef('table')

const several = (line: number) => props.asked.booklet.filter((e) => e.line === line).length > 1
/** Keys 1 to 7 put the mark of that cut at the row in focus. */
function onKey(e: KeyboardEvent, place: number) {
  const cut = Number(e.key) - 1
  if (props.disabled || e.altKey || e.ctrlKey || e.metaKey || !(cut >= 0 && cut < props.asked.cuts.length)) return
  e.preventDefault()
  emit('mark', cut, place)
}
function focusRow(i: number) {
  emit('look', props.asked.booklet[i]!.line - 1)
  void nextTick(() => table.value?.querySelectorAll<HTMLElement>('tbody tr')[i]?.focus())
}
</script>

<template>
  <div ref="table" class="rows">
    <LedgerTable label="Booklet of ordered items" banded>
      <thead>
        <tr>
          <th class="num">Place</th>
          <th>Item</th>
          <th v-for="(c, i) in asked.cuts" :key="c" class="mark" :class="{ double: !i }">
            <BandSwatch :at="i + 1" :of="asked.cuts.length + 1" />{{ c }} <kbd>{{ i + 1 }}</kbd>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(e, i) in asked.booklet"
          :key="i"
          :tabindex="i ? -1 : 0"
          :aria-selected="e.line - 1 === at"
          @focus="emit('look', e.line - 1)"
          @click="focusRow(i)"
          @keydown="onKey($event, i + 1)"
        >
          <td class="num">{{ i + 1 }}</td>
          <td>
            <span class="mono">{{ asked.lines[e.line - 1]!.identifier }}</span>
            <span v-if="several(e.line)" class="soft"> step {{ e.level }}</span>
          </td>
          <td v-for="(c, cut) in asked.cuts" :key="c" class="mark" :class="{ double: !cut, within: i + 1 <= marks[cut]! }">
            <button
              type="button"
              tabindex="-1"
              :aria-pressed="marks[cut] === i + 1"
              :aria-label="`${c} at place ${i + 1}`"
              :disabled="disabled"
              @click.stop="(emit('mark', cut, i + 1), emit('look', e.line - 1))"
            >
              {{ marks[cut] === i + 1 ? 'mark' : '·' }}
            </button>
          </td>
        </tr>
      </tbody>
    </LedgerTable>
  </div>
</template>

<style scoped>
.rows {
  overflow-x: auto;
}
.mark {
  text-align: center;
}
.within {
  background: var(--tint);
}
kbd {
  border: 1px solid var(--rule-strong);
  border-radius: 3px;
  padding: 0 4px;
  font-size: 11px;
}
button {
  width: 100%;
  min-height: 26px;
  border: 0;
  background: none;
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
button[aria-pressed='true'] {
  font-weight: 700;
  border-bottom: 3px solid var(--pine);
}
button:disabled {
  cursor: default;
}
</style>
