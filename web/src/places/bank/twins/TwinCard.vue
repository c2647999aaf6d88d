<script setup lang="ts">
import type { Schemas } from '@/contract/client'
import { gradeName, kindName } from '@/contract/format'
import ItemBody from '@/item/ItemBody.vue'

/** One item of a pair, with its key. */
defineProps<{ title: string; shown: Schemas['Shown']; keys: Schemas['Keys']; name: string; item?: Schemas['Item'] }>()
</script>

<template>
  <article>
    <h3>{{ title }}</h3>
    <p v-if="item" class="soft">
      <RouterLink :to="`/bank/items/${item.id}`" class="mono">{{ item.identifier }}</RouterLink> {{ kindName(item.kind) }},
      {{ item.grade ? `grade ${gradeName(item.grade)}, ` : '' }}{{ item.bank }}, version {{ item.version }}
    </p>
    <div class="card"><ItemBody :shown="shown" :name="name" :model-value="{}" read-only :keys="keys" /></div>
    <slot />
  </article>
</template>

<style scoped>
article {
  min-width: 0;
}
h3 {
  font-size: 12.5px;
}
p {
  margin: 2px 0 6px;
}
.card {
  border: 1px solid var(--rule);
  padding: 12px;
  font-family: var(--reading);
  margin-bottom: 8px;
}
</style>
