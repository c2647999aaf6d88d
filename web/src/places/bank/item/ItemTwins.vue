<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { api, call } from '@/contract/client'
import { tenths } from '@/contract/format'

/** Items of nearly the same text, where there are any. */
const props = defineProps<{ id: number }>()
const twins = useQuery({
  queryKey: ['item-twins', computed(() => props.id)],
  queryFn: () => call(api.GET('/items/{id}/twins', { params: { path: { id: props.id } } })),
  staleTime: 60_000,
})
</script>

<template>
  <section v-if="twins.data.value?.length" aria-labelledby="twins">
    <h2 id="twins">Nearly the same</h2>
    <ul>
      <li v-for="t in twins.data.value" :key="t.item.id">
        <RouterLink :to="`/bank/items/${t.item.id}`" class="mono">{{ t.item.identifier }}</RouterLink>
        <span class="stem">{{ t.item.stem }}</span>
        <span class="soft">{{ tenths(t.likeness) }}% alike, key {{ t.key }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
h2 {
  margin-bottom: 6px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 30px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
.stem {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
