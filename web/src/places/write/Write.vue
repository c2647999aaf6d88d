<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import NotHere from '@/parts/NotHere.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import Writing from './Writing.vue'

/** Opens a draft of one's own. */
const route = useRoute()
const id = computed(() => Number(route.params.id))
const draft = useQuery({
  queryKey: ['item-draft', id],
  queryFn: () => call(api.GET('/item-drafts/{id}', { params: { path: { id: id.value } } })),
  staleTime: Infinity, // what is typed here is ahead of the server
  gcTime: 0,
  refetchOnWindowFocus: false,
})
</script>

<template>
  <NotHere v-if="(draft.error.value as { status?: number } | null)?.status === 404" />
  <Trouble v-else-if="draft.error.value" :error="draft.error.value" />
  <Writing v-else-if="draft.data.value" :key="id" :draft="draft.data.value" />
</template>
