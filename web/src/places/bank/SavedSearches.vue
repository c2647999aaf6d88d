<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { nextTick, ref, useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { useBankQuery } from './useBankQuery'

/** The searches that one keeps, under names of one's own. */
const key = ['saved-searches']
const { narrowed, search } = useBankQuery()
const saved = useQuery({ queryKey: key, queryFn: () => call(api.GET('/saved-searches')), staleTime: 60_000 })
const naming = ref(false)
const name = ref('')
const field = useTemplateRef('field')

const keep = useMutation({
  mutationFn: () => call(api.POST('/saved-searches', { body: { name: name.value, query: search.value } })),
  onSuccess: (now) => {
    queries.setQueryData(key, now)
    naming.value = false
    name.value = ''
  },
})
const drop = useMutation({
  mutationFn: (id: number) => call(api.DELETE('/saved-searches/{id}', { params: { path: { id } } })),
  onSuccess: (now) => queries.setQueryData(key, now),
})

async function begin() {
  naming.value = true
  await nextTick()
  field.value?.focus()
}
</script>

<template>
  <section v-if="saved.data.value?.length || narrowed" class="saved" aria-label="Saved searches">
    <ul v-if="saved.data.value?.length">
      <li v-for="s in saved.data.value" :key="s.id">
        <RouterLink :to="`/bank?${s.query}`" :aria-current="s.query === search ? 'true' : undefined">{{ s.name }}</RouterLink>
        <button type="button" class="link-button" :aria-label="`Delete the search ${s.name}`" @click="drop.mutate(s.id)">
          delete
        </button>
      </li>
    </ul>
    <form v-if="naming" @submit.prevent="keep.mutate()">
      <label
        >Name of this search
        <input ref="field" v-model="name" class="p-inputtext p-component" maxlength="80" @keydown.esc.stop="naming = false" />
      </label>
    </form>
    <button v-else-if="narrowed" type="button" class="link-button" @click="begin">Save this search</button>
    <Trouble :error="keep.error.value ?? drop.error.value" />
  </section>
</template>

<style scoped>
.saved {
  padding: 0 8px 8px;
  margin-bottom: 8px;
  border-bottom: 1px solid var(--rule);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 4px;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 27px;
}
li a {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: inherit;
}
li a[aria-current] {
  font-weight: 650;
}
form input {
  width: 100%;
}
</style>
