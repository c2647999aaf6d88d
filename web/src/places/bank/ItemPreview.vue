<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import SelectButton from 'primevue/selectbutton'
import { computed, ref, watch } from 'vue'
import ItemBody from '@/player/ItemBody.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { gradeName, kindName, languageName, pValue, plural } from '@/contract/format'

/** An item with its key, without it, and exactly as a student gets it. */
const props = defineProps<{ id: number }>()

const ways = [
  { value: 'key', label: 'With key' },
  { value: 'plain', label: 'Without key' },
  { value: 'student', label: 'Try it' },
] as const
const way = ref<'key' | 'plain' | 'student'>('key')
const response = ref<Record<string, string[]>>({})
watch(
  () => props.id,
  () => (response.value = {}),
)

const detail = useQuery({
  queryKey: ['item', computed(() => props.id)],
  queryFn: () => call(api.GET('/items/{id}', { params: { path: { id: props.id } } })),
  staleTime: 60_000,
})
const item = computed(() => detail.data.value?.item)
const facts = computed(() => {
  const i = item.value
  if (!i) return []
  return [
    ['Standards', i.standards.join(', ') || 'none'],
    ['Kind', kindName(i.kind)],
    ['Grade', gradeName(i.grade)],
    ['Depth of knowledge', i.depth ? String(i.depth) : 'not set'],
    ['Difficulty', pValue(i.difficulty)],
    ['Language', languageName(i.language)],
    ['Version', String(i.version)],
    ['Sealed on', plural(i.uses, 'form')],
    ['Bank', i.bank],
  ] as const
})
</script>

<template>
  <Trouble :error="detail.error.value" />
  <template v-if="detail.data.value && item">
    <div class="row top">
      <span class="mono">{{ item.identifier }}</span>
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
      <details v-if="detail.data.value.passage" :open="way === 'student'">
        <summary>{{ detail.data.value.passage.title }}</summary>
        <SafeHtml :html="detail.data.value.passage.body" />
      </details>
      <ItemBody v-if="way === 'student'" v-model="response" :shown="detail.data.value.shown" :name="`try-${id}`" />
      <ItemBody
        v-else
        :shown="detail.data.value.shown"
        :name="`look-${id}`"
        :model-value="{}"
        read-only
        :keys="way === 'key' ? detail.data.value.keys : undefined"
      />
    </div>
    <p v-if="way === 'key'">
      <strong>Key {{ detail.data.value.key }}</strong>
      <span class="soft"> · credit {{ detail.data.value.credit.replaceAll('-', ' ') }}</span>
    </p>
    <div v-if="way === 'key' && detail.data.value.directions" class="aside">
      <strong>Directions to the adult</strong><SafeHtml :html="detail.data.value.directions" />
    </div>
    <p v-if="way === 'key' && detail.data.value.notes" class="aside">
      <strong>Notes to other authors</strong><br />{{ detail.data.value.notes }}
    </p>
    <p v-if="way === 'student'" class="soft">This is what a student gets: nothing of the key comes with it.</p>
    <dl>
      <template v-for="[name, text] in facts" :key="name">
        <dt>{{ name }}</dt>
        <dd>{{ text }}</dd>
      </template>
    </dl>
  </template>
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
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 14px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
</style>
