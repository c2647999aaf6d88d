<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, call } from '@/contract/client'
import ReportEntry from './ReportEntry.vue'

/** Reports on an item; whoever may mend it answers them here. */
const props = defineProps<{ id: number }>()
const reports = useQuery({
  queryKey: ['item-reports', computed(() => props.id)],
  queryFn: () => call(api.GET('/items/{id}/reports', { params: { path: { id: props.id } } })),
})
</script>

<template>
  <section v-if="reports.data.value?.length" id="reports" aria-labelledby="reports-head">
    <h2 id="reports-head">Reports</h2>
    <ReportEntry v-for="r in reports.data.value" :key="r.id" :report="r" />
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
h2 {
  margin-bottom: 6px;
}
</style>
