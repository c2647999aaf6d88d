<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watchEffect } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import * as bankQueries from '@/queries/bank'

/** Offers an item, or an own copy, to a bank whose keepers decide. */
const props = defineProps<{ id: number; title: string; bank: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const banks = useQuery(bankQueries.banks)
const open = computed(() =>
  (banks.data.value ?? []).filter((b) => b.kind !== 'own' && b.kind !== 'given' && b.name !== props.bank),
)
const to = ref('')
watchEffect(() => {
  if (!to.value && open.value.length) to.value = open.value[0]!.name
})
const words = ref('')
const offer = useMutation({
  mutationFn: () =>
    call(api.POST('/items/{id}/offer', { params: { path: { id: props.id } }, body: { bank: to.value, words: words.value } })),
  onSuccess: () => emit('done'),
})
</script>

<template>
  <SidePanel :title="`Offer ${title}`" @close="emit('close')">
    <form id="offer" @submit.prevent="offer.mutate()">
      <p class="soft">The bank’s keepers accept it, return it with words, or decline. You are told on Today.</p>
      <label class="stack"
        >To the bank
        <select v-model="to">
          <option v-for="b in open" :key="b.id" :value="b.name">{{ b.name }}</option>
        </select>
      </label>
      <label class="stack"
        >A word to its keepers
        <textarea v-model="words" rows="3" maxlength="2000" class="p-textarea p-component" />
      </label>
    </form>
    <template #footer>
      <Trouble :error="offer.error.value" />
      <Button type="submit" form="offer" label="Offer" :disabled="!to" :loading="offer.isPending.value" />
    </template>
  </SidePanel>
</template>
