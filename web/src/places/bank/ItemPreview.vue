<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { RouterLink, useRouter } from 'vue-router'
import Note from '@/parts/Note.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import HoldLine from './HoldLine.vue'
import ItemFacts from './ItemFacts.vue'
import ItemLook from './ItemLook.vue'
import { useItem } from './useItem'

/** The chosen item beside the list. */
const props = defineProps<{ id: number }>()
const router = useRouter()
const { detail, may } = useItem(() => props.id)
const write = useMutation({
  mutationFn: () => call(api.POST('/item-drafts', { body: { item: props.id } })),
  onSuccess: (draft: Schemas['ItemDraft']) => router.push(`/bank/write/${draft.id}`),
})
</script>

<template>
  <Trouble :error="detail.error.value ?? write.error.value" />
  <template v-if="detail.data.value">
    <ItemLook :detail="detail.data.value" />
    <div class="row acts">
      <slot />
      <Button
        v-if="may('change')"
        label="Write a new version"
        size="small"
        severity="secondary"
        outlined
        :loading="write.isPending.value"
        @click="write.mutate()"
      />
      <RouterLink :to="`/bank/items/${id}`">Open its page</RouterLink>
    </div>
    <HoldLine v-if="detail.data.value.item.held" :hold="detail.data.value.item.held" />
    <Note v-if="detail.data.value.reports">
      {{ plural(detail.data.value.reports, 'open report') }}: <RouterLink :to="`/bank/items/${id}#reports`">read</RouterLink>
    </Note>
    <ItemFacts :detail="detail.data.value" />
  </template>
</template>

<style scoped>
.acts {
  flex-wrap: wrap;
  gap: 8px 12px;
  margin-bottom: 10px;
}
</style>
