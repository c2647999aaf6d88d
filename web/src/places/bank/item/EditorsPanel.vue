<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import PersonPicker from '@/parts/PersonPicker.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'

/** Who beside its owner may change an item. */
const props = defineProps<{ id: number; editors: Schemas['Person'][] }>()
const emit = defineEmits<{ close: []; done: [] }>()
const people = ref([...props.editors])
const save = useMutation({
  mutationFn: () =>
    call(api.PUT('/items/{id}/editors', { params: { path: { id: props.id } }, body: { people: people.value.map((p) => p.id) } })),
  onSuccess: () => emit('done'),
})
</script>

<template>
  <SidePanel title="Editors" @close="emit('close')">
    <p class="soft">They may change the item beside its owner, as coordinators to whom its bank is open.</p>
    <ul>
      <li v-for="p in people" :key="p.id">
        <span
          >{{ p.name }} <span class="soft">{{ p.where || 'whole district' }}, {{ p.email }}</span></span
        >
        <button
          type="button"
          class="link-button"
          :aria-label="`Take ${p.name} off`"
          @click="people = people.filter((x) => x.id !== p.id)"
        >
          take off
        </button>
      </li>
    </ul>
    <PersonPicker label="Add an editor" :without="people.map((p) => p.id)" @pick="(p) => people.push(p)" />
    <template #footer>
      <Trouble :error="save.error.value" />
      <Button label="Save" :loading="save.isPending.value" @click="save.mutate()" />
    </template>
  </SidePanel>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 14px;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
}
</style>
