<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, toRaw } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import type { Entry } from './whom'

/** Whom something went to before: kept under a name, and used again. */
const props = defineProps<{ entries: Entry[] }>()
const emit = defineEmits<{ use: [entries: Entry[]] }>()
const key = ['choices']
const query = useQuery({ queryKey: key, queryFn: () => call(api.GET('/choices')) })
const list = computed(() => query.data.value ?? [])
const took = (now: Schemas['WhomChoice'][]) => queries.setQueryData(key, now)
const name = ref<string>() // while one is kept
const keep = useMutation({
  mutationFn: () => call(api.PUT('/choices', { body: { name: name.value ?? '', entries: props.entries } })),
  onSuccess: (now) => {
    took(now)
    name.value = undefined
  },
})
const drop = useMutation({
  mutationFn: (id: number) => call(api.DELETE('/choices/{id}', { params: { path: { id } } })),
  onSuccess: took,
})
const use = (c: Schemas['WhomChoice']) => emit('use', structuredClone(toRaw(c)).entries)
</script>

<template>
  <div v-if="list.length || entries.length" class="choices">
    <template v-if="list.length">
      <span class="soft">Kept choices:</span>
      <span v-for="c in list" :key="c.id" class="choice">
        <button
          type="button"
          class="link-button"
          :title="entries.length ? 'In place of these entries' : undefined"
          @click="use(c)"
        >
          {{ c.name }}
        </button>
        <button type="button" class="off" :aria-label="`Delete the choice ${c.name}`" @click="drop.mutate(c.id)">×</button>
      </span>
    </template>
    <form v-if="name !== undefined" @submit.prevent="keep.mutate()">
      <InputText v-model="name" size="small" maxlength="80" aria-label="Name of the choice" placeholder="Name" autofocus />
      <Button type="submit" label="Keep" size="small" :loading="keep.isPending.value" />
      <Button label="Cancel" size="small" severity="secondary" text @click="name = undefined" />
    </form>
    <button v-else-if="entries.length" type="button" class="link-button" @click="name = ''">Keep this choice</button>
    <Trouble :error="keep.error.value ?? drop.error.value ?? query.error.value" />
  </div>
</template>

<style scoped>
.choices,
form {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
}
.choices {
  margin: 4px 0;
}
.choice {
  display: inline-flex;
  align-items: center;
}
.off {
  min-width: 24px;
  min-height: 24px;
  font: inherit;
  color: var(--ink-soft);
  background: none;
  border: 0;
  cursor: pointer;
}
</style>
