<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, call, type Schemas } from '@/contract/client'

/** Finds members of staff by name, school and e-mail at once; two may share a name. */
const props = defineProps<{ label: string; without: number[] }>()
const emit = defineEmits<{ pick: [person: Schemas['Person']] }>()
const words = ref('')
const settled = refDebounced(words, 180)
const found = useQuery({
  queryKey: ['staff', settled],
  queryFn: () => call(api.GET('/staff', { params: { query: { words: settled.value } } })),
  enabled: computed(() => !!settled.value.trim()),
  placeholderData: keepPreviousData,
})
const people = computed(() => (words.value.trim() ? (found.data.value ?? []).filter((p) => !props.without.includes(p.id)) : []))

function pick(p: Schemas['Person']) {
  emit('pick', p)
  words.value = ''
}
</script>

<template>
  <div class="picker">
    <label
      >{{ label }}
      <input
        v-model="words"
        type="search"
        class="p-inputtext p-component"
        placeholder="Name, school or e-mail"
        autocomplete="off"
        @keydown.enter.prevent="people[0] && pick(people[0])"
      />
    </label>
    <ul v-if="people.length" aria-label="People found">
      <li v-for="p in people" :key="p.id">
        <button type="button" @click="pick(p)">
          <strong>{{ p.name }}</strong> <span>{{ p.where || 'whole district' }}</span> <span class="mono">{{ p.email }}</span>
        </button>
      </li>
    </ul>
    <p v-else-if="words.trim() && found.isSuccess.value" class="soft" role="status">Nobody by that name.</p>
  </div>
</template>

<style scoped>
input {
  display: block;
  width: 100%;
  margin-top: 3px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
  border: 1px solid var(--rule-strong);
  max-height: 240px;
  overflow: auto;
}
button {
  display: grid;
  grid-template-columns: 1fr auto;
  width: 100%;
  padding: 5px 8px;
  gap: 0 12px;
  font: inherit;
  color: inherit;
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
}
button:hover,
button:focus-visible {
  background: var(--tint-strong);
}
.mono {
  grid-column: 1 / 3;
  font-size: 12px;
  color: var(--ink-soft);
}
</style>
