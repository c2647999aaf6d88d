<script setup lang="ts">
import { RouterLink } from 'vue-router'
import Note from '@/parts/Note.vue'
import Trouble from '@/parts/Trouble.vue'
import { plural } from '@/contract/format'
import HoldLine from './HoldLine.vue'
import ItemFacts from './ItemFacts.vue'
import ItemLook from './ItemLook.vue'
import { useItem } from './useItem'

/** The chosen item beside the list. */
const props = defineProps<{ id: number }>()
const { detail } = useItem(() => props.id)
</script>

<template>
  <Trouble :error="detail.error.value" />
  <template v-if="detail.data.value">
    <ItemLook :detail="detail.data.value" />
    <div class="row acts">
      <slot />
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
  gap: 14px;
  margin-bottom: 10px;
}
</style>
