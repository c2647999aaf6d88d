<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import DifficultyBar from '@/parts/DifficultyBar.vue'
import Empty from '@/parts/Empty.vue'
import Trouble from '@/parts/Trouble.vue'
import { kindName } from '@/contract/format'
import { api, call } from '@/contract/client'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** The nearest equals of a line, each with why it stands where it does; one of them can take its place. */
const props = defineProps<{ item: number }>()
const emit = defineEmits<{ swapped: [item: number] }>()
const { sheet, changeLines } = useOpenSheet()

/** The bank is asked only by who wants to swap: it is large. */
const wanted = ref(false)
const offers = useQuery({
  queryKey: ['swaps', computed(() => sheet.value.id), computed(() => sheet.value.version), computed(() => props.item)],
  queryFn: () =>
    call(api.GET('/assessments/{id}/lines/{item}/swaps', { params: { path: { id: sheet.value.id, item: props.item } } })),
  enabled: wanted,
})
async function swap(itemId: number) {
  const done = await changeLines((l) => l.map((x) => (x.itemId === props.item ? { ...x, itemId, versionId: undefined } : x)))
  if (done) emit('swapped', itemId)
}
</script>

<template>
  <details class="swaps" @toggle="wanted ||= ($event.target as HTMLDetailsElement).open">
    <summary>Swap for an equal item</summary>
    <Trouble :error="offers.error.value" />
    <Empty v-if="offers.data.value && !offers.data.value.length" text="The bank holds no other item for this row." />
    <ul>
      <li v-for="o in offers.data.value" :key="o.item.itemId">
        <span class="stem"
          >{{ o.item.stem }}
          <small class="soft">{{ o.why.join(' · ') }} · {{ kindName(o.item.kind) }} · used {{ o.item.uses }}×</small></span
        >
        <DifficultyBar :value="o.item.difficulty" />
        <Button
          label="Swap"
          size="small"
          severity="secondary"
          outlined
          :aria-label="`Swap for ${o.item.identifier}`"
          @click="swap(o.item.itemId)"
        />
      </li>
    </ul>
  </details>
</template>

<style scoped>
.swaps {
  margin: 4px 0 12px;
}
summary {
  cursor: pointer;
  color: var(--slate);
  padding: 4px 0;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
.stem {
  flex: 1;
  min-width: 0;
}
small {
  display: block;
}
</style>
