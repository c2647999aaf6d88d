<script setup lang="ts">
import { keepPreviousData, useMutation, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import Empty from '@/parts/Empty.vue'
import Trouble from '@/parts/Trouble.vue'
import { gradesName, moment, plural } from '@/contract/format'
import { api, call, queries, type Schemas } from '@/contract/client'
import { libraryKey } from './library'

/** The library of blueprints: one is chosen, and those of one's own may be taken out. */
const chosen = defineModel<number>()
const props = defineProps<{ subject: string }>()
const words = ref('')
const settled = refDebounced(words, 180)
const list = useQuery({
  queryKey: [...libraryKey, settled, props.subject],
  queryFn: () => call(api.GET('/blueprints', { params: { query: { words: settled.value, subject: props.subject } } })),
  placeholderData: keepPreviousData,
})
const drop = useMutation({
  mutationFn: (b: Schemas['KeptBlueprint']) =>
    call(api.DELETE('/blueprints/{id}', { params: { path: { id: b.id }, header: { 'If-Match': b.version } } })),
  onSettled: (_, __, b) => {
    if (chosen.value === b.id) chosen.value = undefined
    return queries.invalidateQueries({ queryKey: libraryKey })
  },
})
</script>

<template>
  <InputText v-model="words" class="words" placeholder="Words in the name" aria-label="Words in the name of a blueprint" />
  <Trouble :error="list.error.value ?? drop.error.value" />
  <Empty
    v-if="list.data.value && !list.data.value.length"
    :text="
      words.trim()
        ? 'No blueprint in the library has that name.'
        : 'The library is empty. Save to library, above a blueprint, puts its rows here under a name.'
    "
  />
  <ul>
    <li v-for="b in list.data.value" :key="b.id">
      <label
        ><input v-model="chosen" type="radio" name="kept" :value="b.id" />
        <span
          >{{ b.title }}
          <small class="soft"
            >{{ plural(b.rows, 'row') }}, {{ b.subject }}, {{ gradesName(b.grades) }} · {{ b.school || 'district' }} ·
            {{ b.changedBy }}, {{ moment(b.changedAt) }}</small
          ></span
        ></label
      >
      <button
        v-if="b.mayChange"
        type="button"
        class="link-button"
        :aria-label="`Remove ${b.title} from the library`"
        @click="drop.mutate(b)"
      >
        Remove
      </button>
    </li>
  </ul>
</template>

<style scoped>
.words {
  width: 100%;
}
ul {
  list-style: none;
  padding: 0;
  margin: 10px 0 0;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
}
label {
  flex: 1;
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 6px 0;
  cursor: pointer;
}
small {
  display: block;
}
</style>
