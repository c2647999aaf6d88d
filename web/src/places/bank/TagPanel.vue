<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, onMounted, ref, useTemplateRef } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import * as bankQueries from '@/queries/bank'

/** Tags put on and taken off without opening the items: typed with commas, or picked from those in use. */
const props = defineProps<{ items: number[]; shown: Schemas['Item'][] }>()
const emit = defineEmits<{ close: []; done: [] }>()

const tags = useQuery(bankQueries.tags)
const typed = ref('')
const scopeAt = ref(0)
const field = useTemplateRef('field')
onMounted(() => field.value?.focus())

const scopes = computed(() => tags.data.value?.scopes ?? [])
const scope = computed(() => scopes.value[scopeAt.value])
function scopeName(s: Schemas['TagFor']): string {
  if (s.scope === 'everyone') return 'everyone'
  if (s.scope === 'person') return 'myself only'
  return s.scope === 'school' ? s.for : `those who teach ${s.for}`
}
/** Those in use for the same people that begin with what is being typed. */
const begun = computed(() => typed.value.split(',').at(-1)!.trim().toLowerCase().replaceAll(' ', '-'))
const offered = computed(() =>
  (tags.data.value?.tags ?? [])
    .filter((t) => t.scope === scope.value?.scope && t.scopeId === scope.value.scopeId && t.name.startsWith(begun.value))
    .sort((a, b) => b.items - a.items)
    .slice(0, 20),
)
/** Those that the marked items carry, as far as they are listed. */
const carried = computed(() => {
  const out = new Map<number, { id: number; name: string; n: number }>()
  for (const i of props.shown) {
    if (!props.items.includes(i.id)) continue
    for (const t of i.tags) out.set(t.id, { id: t.id, name: t.name, n: (out.get(t.id)?.n ?? 0) + 1 })
  }
  return [...out.values()].sort((a, b) => a.name.localeCompare(b.name))
})
const off = ref(new Set<number>())

function offer(name: string) {
  typed.value = [...typed.value.split(',').slice(0, -1), name].map((t) => t.trim()).join(', ') + ', '
  field.value?.focus()
}

const put = useMutation({
  mutationFn: () =>
    call(
      api.POST('/item-tags', {
        body: {
          items: props.items,
          tags: typed.value,
          scope: scope.value!.scope,
          scopeId: scope.value!.scopeId,
          off: [...off.value],
        },
      }),
    ),
  onSuccess: async () => {
    await Promise.all(['items', 'item-tags', 'tags', 'item', 'tray'].map((k) => queries.invalidateQueries({ queryKey: [k] })))
    emit('done')
  },
})
</script>

<template>
  <SidePanel :title="`Tag ${plural(items.length, 'item')}`" @close="emit('close')">
    <form id="tags" @submit.prevent="put.mutate()">
      <label class="stack"
        >Tags, separated by commas
        <input ref="field" v-model="typed" class="p-inputtext p-component" maxlength="1000" autocomplete="off" />
      </label>
      <label class="stack"
        >For
        <select v-model="scopeAt">
          <option v-for="(s, i) in scopes" :key="`${s.scope}${s.scopeId}`" :value="i">{{ scopeName(s) }}</option>
        </select>
      </label>
      <p class="soft">Nobody else sees these tags or finds items by them.</p>
      <template v-if="offered.length">
        <h3>In use</h3>
        <p class="offers">
          <button v-for="t in offered" :key="t.id" type="button" @click="offer(t.name)">
            {{ t.name }} <span class="soft">{{ t.items }}</span>
          </button>
        </p>
      </template>
      <template v-if="carried.length">
        <h3>Remove from these items</h3>
        <label v-for="t in carried" :key="t.id" class="carried">
          <input type="checkbox" :checked="off.has(t.id)" @change="off.delete(t.id) || off.add(t.id)" />
          <span>{{ t.name }}</span>
          <span class="soft">{{ t.n }}</span>
        </label>
      </template>
    </form>
    <template #footer>
      <Trouble :error="put.error.value" />
      <Button
        type="submit"
        form="tags"
        label="Tag"
        :loading="put.isPending.value"
        :disabled="!scope || (!typed.trim() && !off.size)"
      />
    </template>
  </SidePanel>
</template>

<style scoped>
h3 {
  font-size: 12.5px;
  margin: 16px 0 6px;
  border-bottom: 1.5px solid var(--ink);
}
.offers {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0;
}
.offers button {
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid var(--rule-strong);
  border-radius: 3px;
  padding: 2px 8px;
  min-height: 26px;
  cursor: pointer;
}
.offers button:hover {
  background: var(--tint-strong);
}
.carried {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 28px;
  border-bottom: 1px solid var(--rule);
}
.carried span:first-of-type {
  flex: 1;
}
</style>
