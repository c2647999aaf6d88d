<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { moment } from '@/contract/format'
import Differences from './Differences.vue'

/** The versions of an item, and what changed between any two. */
const props = defineProps<{ id: number; shown: number }>()
const versions = useQuery({
  queryKey: ['item-versions', computed(() => props.id)],
  queryFn: () => call(api.GET('/items/{id}/versions', { params: { path: { id: props.id } } })),
})
const list = computed(() => versions.data.value ?? [])
const from = ref<number>()
const to = ref<number>()
watch(
  () => [props.id, list.value.length],
  () => {
    to.value = list.value[0]?.number
    from.value = list.value[1]?.number
  },
  { immediate: true },
)
const changes = useQuery({
  queryKey: ['item-changes', computed(() => props.id), from, to],
  queryFn: () =>
    call(api.GET('/items/{id}/changes', { params: { path: { id: props.id }, query: { from: from.value!, to: to.value! } } })),
  enabled: computed(() => !!from.value && !!to.value),
  staleTime: Infinity,
})
</script>

<template>
  <section aria-labelledby="versions">
    <h2 id="versions">Versions</h2>
    <Trouble :error="versions.error.value ?? changes.error.value" />
    <ol>
      <li v-for="v in list" :key="v.number">
        <RouterLink :to="`/bank/items/${id}?version=${v.number}`" :aria-current="v.number === shown ? 'true' : undefined"
          >version {{ v.number }}</RouterLink
        >
        <span class="soft">{{ moment(v.at) }}{{ v.author ? `, ${v.author}` : '' }}</span>
      </li>
    </ol>
    <template v-if="list.length > 1">
      <p class="row">
        <label
          >What changed from
          <select v-model="from">
            <option v-for="v in list" :key="v.number" :value="v.number">version {{ v.number }}</option>
          </select></label
        >
        <label
          >to
          <select v-model="to">
            <option v-for="v in list" :key="v.number" :value="v.number">version {{ v.number }}</option>
          </select></label
        >
      </p>
      <Differences v-if="changes.data.value" :list="changes.data.value" />
    </template>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
h2 {
  margin-bottom: 6px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  justify-content: space-between;
  min-height: 29px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
}
li a {
  color: inherit;
}
li a[aria-current] {
  font-weight: 650;
}
select {
  padding: 2px 28px 2px 6px;
}
</style>
