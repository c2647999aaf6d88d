<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Note from '@/parts/Note.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import HoldLine from './HoldLine.vue'
import ItemFacts from './ItemFacts.vue'
import ItemLook from './ItemLook.vue'
import ReportPanel from './item/ReportPanel.vue'
import { refreshItems, useItem } from './useItem'

/** The chosen item beside the list. */
const props = defineProps<{ id: number }>()
const reporting = ref(false)
const reported = ref(false)
watch(
  () => props.id,
  () => (reported.value = reporting.value = false),
)
async function done() {
  reporting.value = false
  reported.value = true
  await refreshItems()
}
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
      <button type="button" class="link-button" @click="reporting = true">report</button>
    </div>
    <p v-if="reported" role="status">Reported. You are told on Today what came of it.</p>
    <ReportPanel
      v-if="reporting"
      :id="id"
      :version="detail.data.value.number"
      :title="detail.data.value.item.identifier"
      @close="reporting = false"
      @done="done"
    />
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
