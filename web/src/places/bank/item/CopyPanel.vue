<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import * as bankQueries from '@/queries/bank'
import { refreshItems } from '../useItem'

/** Puts a copy into a bank that one writes in. */
const props = defineProps<{ id: number; title: string }>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const banks = useQuery(bankQueries.banks)
const open = computed(() => (banks.data.value ?? []).filter((b) => b.write))
const to = ref('')
watchEffect(() => {
  if (!to.value && open.value.length) to.value = open.value[0]!.name
})
const copy = useMutation({
  mutationFn: () => call(api.POST('/items/{id}/copy', { params: { path: { id: props.id } }, body: { bank: to.value } })),
  onSuccess: async (made) => {
    await refreshItems()
    emit('close')
    await router.push(`/bank/items/${made.id}`)
  },
})
</script>

<template>
  <SidePanel :title="`Copy ${title}`" @close="emit('close')">
    <form id="copy" @submit.prevent="copy.mutate()">
      <p class="soft">The copy is yours to change. Where it came from stays with it.</p>
      <label class="stack"
        >Into the bank
        <select v-model="to">
          <option v-for="b in open" :key="b.id" :value="b.name">{{ b.name }}</option>
        </select>
      </label>
    </form>
    <template #footer>
      <Trouble :error="copy.error.value" />
      <Button type="submit" form="copy" label="Copy" :disabled="!to" :loading="copy.isPending.value" />
    </template>
  </SidePanel>
</template>
