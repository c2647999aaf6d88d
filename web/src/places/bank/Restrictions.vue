<script setup lang="ts">
import { IconX } from '@tabler/icons-vue'
import { computed, nextTick, useTemplateRef } from 'vue'
import { useSession } from '@/contract/session'
import { restrictions, type Restriction } from './restrictions'
import { useBankQuery } from './useBankQuery'

/** Filters, in sight above the list however far its field is; each is lifted by itself. */
const { query, change } = useBankQuery()
const { session } = useSession()
const all = computed(() => restrictions(query.value, session.value?.personId))

const list = useTemplateRef('list')
/** Lifts one; whoever goes by keys is not sent back to the top of the page by the button that is gone. */
async function lift(r: Restriction, at: number) {
  await change(r.without)
  await nextTick()
  const left = [...(list.value?.querySelectorAll('button') ?? [])]
  ;(left[Math.min(at, left.length - 1)] ?? document.querySelector<HTMLElement>('[data-search]'))?.focus()
}
</script>

<template>
  <ul v-if="all.length" ref="list" aria-label="Filters">
    <li v-for="(r, i) in all" :key="r.label">
      <button type="button" :aria-label="`Lift: ${r.label}`" @click="lift(r, i)">{{ r.label }} <IconX :size="13" /></button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
button {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  min-height: 24px;
  padding: 0 6px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: inherit;
  font: 400 12.5px var(--sans);
  cursor: pointer;
}
button:hover {
  background: var(--tint-strong);
}
</style>
