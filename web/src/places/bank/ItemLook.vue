<script setup lang="ts">
import SelectButton from 'primevue/selectbutton'
import { ref, watch } from 'vue'
import ItemBody from '@/item/ItemBody.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'

/** An item with its key, without it, and exactly as a student gets it. */
const props = defineProps<{ detail: Schemas['ItemDetail'] }>()

const ways = [
  { value: 'key', label: 'With key' },
  { value: 'plain', label: 'Without key' },
  { value: 'student', label: 'Try it' },
] as const
const way = ref<'key' | 'plain' | 'student'>('key')
const response = ref<Record<string, string[]>>({})
watch(
  () => props.detail.item.id,
  () => (response.value = {}),
)
</script>

<template>
  <div class="row top">
    <span class="mono">{{ detail.item.identifier }}</span>
    <SelectButton
      v-model="way"
      :options="[...ways]"
      option-label="label"
      option-value="value"
      :allow-empty="false"
      size="small"
      aria-label="Look at the item"
    />
  </div>
  <div class="card" :class="way">
    <details v-if="detail.passage" :open="way === 'student'">
      <summary>{{ detail.passage.title }}</summary>
      <SafeHtml :html="detail.passage.body" :lang="detail.passage.language" />
    </details>
    <ItemBody v-if="way === 'student'" v-model="response" :shown="detail.shown" :name="`try-${detail.item.id}`" />
    <ItemBody
      v-else
      :shown="detail.shown"
      :name="`look-${detail.item.id}`"
      :model-value="{}"
      read-only
      :keys="way === 'key' ? detail.keys : undefined"
    />
  </div>
  <template v-if="way === 'key'">
    <p>
      <strong>Key {{ detail.key }}</strong>
      <span class="soft"> · credit {{ detail.credit.replaceAll('-', ' ') }}</span>
    </p>
    <div v-if="detail.directions" class="aside">
      <strong>Directions to the adult</strong><SafeHtml :html="detail.directions" />
    </div>
    <p v-if="detail.notes" class="aside"><strong>Notes to other authors</strong><br />{{ detail.notes }}</p>
  </template>
  <p v-if="way === 'student'" class="soft">This is what a student gets: nothing of the key comes with it.</p>
</template>

<style scoped>
.top {
  justify-content: space-between;
  margin-bottom: 8px;
}
.card {
  border: 1px solid var(--rule);
  padding: 14px;
  margin-bottom: 10px;
  font-family: var(--reading);
  font-size: 15px;
}
details {
  margin-bottom: 12px;
  border-bottom: 1px solid var(--rule);
}
summary {
  font-weight: 650;
  cursor: pointer;
  padding: 4px 0;
}
.aside {
  border-left: 3px double var(--rule-strong);
  padding-left: 10px;
  margin: 0 0 10px;
}
</style>
