<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { kindName, moment } from '@/contract/format'

/** Which kind of item to write; or a draft that was left. */
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const error = ref<Error>()

const groups: [string, string[]][] = [
  ['Choose', ['single-choice', 'multiple-choice', 'true-false', 'select-text', 'menus']],
  ['Arrange', ['order', 'match', 'sort', 'box-table']],
  ['Place', ['number-line', 'spot']],
  ['Type and write', ['text', 'number', 'short-written', 'extended-written']],
  ['More', ['parts', 'examiner']],
]
const drafts = useQuery({ queryKey: ['item-drafts'], queryFn: () => call(api.GET('/item-drafts')), staleTime: 0 })

/** One press begins one item, however often it is pressed. */
const beginning = ref(false)
async function begin(kind: string) {
  if (beginning.value) return
  beginning.value = true
  try {
    const draft = await call(api.POST('/item-drafts', { body: { kind } }))
    emit('close')
    await router.push(`/bank/write/${draft.id}`)
  } catch (e) {
    error.value = e as Error
    beginning.value = false
  }
}
</script>

<template>
  <Dialog :visible="true" modal header="Write an item" :style="{ width: '720px' }" @update:visible="emit('close')">
    <Trouble :error="error" />
    <div class="kinds">
      <section v-for="[name, list] in groups" :key="name">
        <h3>{{ name }}</h3>
        <button v-for="k in list" :key="k" type="button" :disabled="beginning" @click="begin(k)">{{ kindName(k) }}</button>
      </section>
    </div>
    <section v-if="drafts.data.value?.length" class="drafts">
      <h3>Begun and not yet in the bank</h3>
      <ul>
        <li v-for="d in drafts.data.value" :key="d.id">
          <RouterLink :to="`/bank/write/${d.id}`" @click="emit('close')">{{ d.stem || 'without a question yet' }}</RouterLink>
          <span class="soft">{{ kindName(d.kind) }}{{ d.itemId ? ', a new version' : '' }}, {{ moment(d.changedAt) }}</span>
        </li>
      </ul>
    </section>
    <template #footer>
      <Button label="Cancel" severity="secondary" text @click="emit('close')" />
    </template>
  </Dialog>
</template>

<style scoped>
.kinds {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(125px, 1fr));
  gap: 14px;
}
h3 {
  font-size: 12.5px;
  margin: 0 0 4px;
  border-bottom: 1.5px solid var(--ink);
}
.kinds button {
  display: block;
  width: 100%;
  min-height: 34px;
  padding: 4px 2px;
  font: inherit;
  text-align: left;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
}
.kinds button:hover {
  background: var(--tint-strong);
}
.drafts {
  margin-top: 18px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  max-height: 180px;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
}
li a {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li .soft {
  white-space: nowrap;
}
</style>
