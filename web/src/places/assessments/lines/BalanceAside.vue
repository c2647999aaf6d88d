<script setup lang="ts">
import { IconChevronRight } from '@tabler/icons-vue'
import Button from 'primevue/button'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import Note from '@/parts/Note.vue'
import BalanceTable from '@/places/assessments/blueprint/BalanceTable.vue'
import type { Sheet } from './lines'

/** What the blueprint plans beside what the lines hold; folded away, the lines have the whole width. */
const props = defineProps<{ sheet: Sheet; editable: boolean }>()
const folded = defineModel<boolean>('folded', { required: true })
/** draw: what a row lacks, rows counted from 1; fit: show items that fit a row, counted from 0. */
const emit = defineEmits<{ draw: [row: number]; fit: [row: number] }>()

const shortRows = computed(() => props.sheet.rows.map((row, i) => ({ row, i })).filter(({ row }) => row.balance < 0))
const keyPositions = computed(() => {
  const counts = new Map<string, number>()
  for (const l of props.sheet.lines) if (l.kind === 'single-choice') counts.set(l.key, (counts.get(l.key) ?? 0) + 1)
  return [...counts].sort(([a], [b]) => a.localeCompare(b)).map(([k, n]) => `${k} ${n}`)
})
</script>

<template>
  <aside :class="{ folded }" aria-label="Balance">
    <h2>
      <button type="button" :aria-expanded="!folded" @click="folded = !folded">
        <IconChevronRight :size="16" aria-hidden="true" /><span>Balance</span>
      </button>
    </h2>
    <template v-if="!folded">
      <Empty v-if="!sheet.rows.length" text="There is no blueprint, so nothing is planned."
        ><RouterLink :to="`/assessments/${sheet.id}/blueprint`">Make a blueprint</RouterLink></Empty
      >
      <template v-else>
        <BalanceTable :sheet="sheet" @open="emit('fit', $event)" />
        <Note v-for="{ row, i } in shortRows.slice(0, 3)" :key="i">
          <strong class="resin">Row {{ i + 1 }} is short {{ -row.balance }}.</strong>
          {{ row.title }} has fewer lines than planned.
          <div v-if="editable" class="row">
            <Button :label="`Draw ${-row.balance}`" size="small" severity="secondary" outlined @click="emit('draw', i + 1)" />
            <button type="button" class="link-button" @click="emit('fit', i)">Show items that fit</button>
          </div>
        </Note>
      </template>
      <p v-if="keyPositions.length" class="soft">Key positions {{ keyPositions.join(' · ') }}.</p>
    </template>
  </aside>
</template>

<style scoped>
aside {
  border-left: 1px solid var(--rule);
  padding: 18px 10px;
  overflow: auto;
}
h2 {
  margin-bottom: 8px;
}
h2 button {
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 28px;
  padding: 0;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
h2 button[aria-expanded='true'] svg {
  transform: rotate(90deg);
}
aside.folded {
  padding: 18px 4px;
}
aside.folded h2 button {
  flex-direction: column;
}
aside.folded h2 span {
  writing-mode: vertical-rl;
}
</style>
