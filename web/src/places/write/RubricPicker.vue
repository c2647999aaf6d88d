<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import Empty from '@/parts/Empty.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'

/** Rubrics of other items, each with its traits and levels; one is copied. */
const emit = defineEmits<{ choose: [traits: Schemas['RubricTrait'][]]; close: [] }>()
const words = ref('')
const asked = refDebounced(words, 200)
const list = useQuery({
  queryKey: ['rubrics', computed(() => asked.value)],
  queryFn: () => call(api.GET('/rubrics', { params: { query: { words: asked.value || undefined } } })),
  placeholderData: keepPreviousData,
})
</script>

<template>
  <SidePanel title="Use another item’s rubric" @close="emit('close')">
    <InputText v-model="words" placeholder="Words in the item" aria-label="Words in the item" />
    <Trouble :error="list.error.value" />
    <Empty v-if="list.data.value && !list.data.value.length" text="No written item with a rubric has these words." />
    <ul>
      <li v-for="o in list.data.value" :key="o.identifier">
        <p>
          <strong>{{ o.stem }}</strong> <span class="mono soft">{{ o.identifier }}</span>
        </p>
        <dl>
          <template v-for="t in o.traits" :key="t.name">
            <dt>{{ t.name }}</dt>
            <dd v-for="l in t.levels" :key="l.points">{{ l.points }}: {{ l.text }}</dd>
          </template>
        </dl>
        <Button
          label="Use it"
          size="small"
          severity="secondary"
          outlined
          :aria-label="`Use the rubric of ${o.identifier}`"
          @click="emit('choose', o.traits)"
        />
      </li>
    </ul>
  </SidePanel>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  border-top: 1.5px solid var(--ink);
}
li {
  padding: 8px 0 10px;
  border-bottom: 1px solid var(--rule);
}
p {
  margin: 0 0 4px;
}
dl {
  margin: 0 0 8px;
}
dt {
  font-weight: 650;
}
dd {
  margin: 0 0 0 14px;
}
</style>
