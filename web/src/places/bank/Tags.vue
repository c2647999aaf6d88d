<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref } from 'vue'
import { RouterLink } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import * as bankQueries from '@/queries/bank'
import BankTabs from './BankTabs.vue'

/** The tags that exist for one; renamed here wherever they stand, and merged by giving two one name. */
const tags = useQuery(bankQueries.tags)
const words = ref('')
const shown = computed(() => (tags.data.value?.tags ?? []).filter((t) => t.name.includes(words.value.trim().toLowerCase())))
const editing = ref<number>()
const name = ref('')

const rename = useMutation({
  mutationFn: (id: number) => call(api.PUT('/tags/{id}', { params: { path: { id } }, body: { name: name.value } })),
  onSuccess: async (now) => {
    queries.setQueryData(bankQueries.tags.queryKey, now)
    editing.value = undefined
    await Promise.all(['items', 'item-tags', 'item'].map((k) => queries.invalidateQueries({ queryKey: [k] })))
  },
})
const same = computed(() => {
  const t = shown.value.find((x) => x.id === editing.value)
  const typed = name.value
    .trim()
    .toLowerCase()
    .replaceAll(/[\s,;-]+/g, '-')
  return t && typed !== t.name
    ? shown.value.find((x) => x.name === typed && x.scope === t.scope && x.scopeId === t.scopeId)
    : undefined
})

async function begin(t: Schemas['Tag']) {
  editing.value = t.id
  name.value = t.name
  await nextTick()
  document.getElementById(`tag-${t.id}`)?.focus()
}
function whom(t: Schemas['Tag']): string {
  return { everyone: 'everyone', person: 'yourself only', school: t.for, course: `those who teach ${t.for}` }[t.scope]
}
</script>

<template>
  <div>
    <BankTabs />
    <div class="page">
      <InputText v-model="words" data-search placeholder="Find a tag" aria-label="Find a tag" />
      <Trouble :error="tags.error.value ?? rename.error.value" />
      <Empty
        v-if="tags.data.value && !shown.length"
        text="No tag has that name. Tags are put on items from the list: mark some, then Tag."
      />
      <LedgerTable v-else label="Tags" banded>
        <thead>
          <tr>
            <th>Tag</th>
            <th>For</th>
            <th class="num double">Items</th>
            <th><span class="out-of-sight">Rename</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in shown" :key="t.id">
            <td class="name">
              <form v-if="editing === t.id" @submit.prevent="rename.mutate(t.id)">
                <input
                  :id="`tag-${t.id}`"
                  v-model="name"
                  class="p-inputtext p-component"
                  maxlength="40"
                  :aria-label="`New name of ${t.name}`"
                  @keydown.esc="editing = undefined"
                />
                <span v-if="same" class="soft" role="status"
                  >There is such a tag on {{ same.items }} items: the two become one.</span
                >
              </form>
              <template v-else>{{ t.name }}</template>
            </td>
            <td>{{ whom(t) }}</td>
            <td class="num double">
              <RouterLink :to="{ path: '/bank', query: { tag: t.name } }">{{ t.items }}</RouterLink>
            </td>
            <td class="num">
              <template v-if="editing === t.id">
                <button type="button" class="link-button" @click="rename.mutate(t.id)">{{ same ? 'merge' : 'keep' }}</button>
                <button type="button" class="link-button" @click="editing = undefined">leave it</button>
              </template>
              <button
                v-else-if="t.mayRename"
                type="button"
                class="link-button"
                :aria-label="`Rename ${t.name}`"
                @click="begin(t)"
              >
                rename
              </button>
            </td>
          </tr>
        </tbody>
      </LedgerTable>
    </div>
  </div>
</template>

<style scoped>
.page {
  padding: 0 18px 40px;
  max-width: 900px;
}
.page > :first-child {
  width: 320px;
  margin-bottom: 10px;
}
form {
  display: flex;
  gap: 10px;
  align-items: center;
}
form input {
  padding: 1px 6px;
}
</style>
