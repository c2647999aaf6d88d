<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { ref, watch } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import * as assessmentQueries from '@/queries/assess'

/** The district's own list of what assessments are for, one a line. */
const emit = defineEmits<{ close: [] }>()
const list = useQuery({ ...assessmentQueries.purposes, staleTime: 0 })
const typed = ref('')
watch(list.data, (now) => (typed.value ||= (now ?? []).join('\n')), { immediate: true })
const save = useMutation({
  mutationFn: () => call(api.PUT('/purposes', { body: { purposes: typed.value.split('\n') } })),
  onSuccess: (now) => {
    queries.setQueryData(assessmentQueries.purposes.queryKey, now)
    emit('close')
  },
})
</script>

<template>
  <SidePanel title="Purposes" @close="emit('close')">
    <p id="purposes-hint" class="soft">
      One a line, in the order in which they are offered. Assessments keep the purpose that they have.
    </p>
    <Textarea v-model="typed" rows="10" fluid aria-label="Purposes, one a line" aria-describedby="purposes-hint" />
    <template #footer>
      <Trouble :error="save.error.value" />
      <Button label="Save" :loading="save.isPending.value" @click="save.mutate()" />
    </template>
  </SidePanel>
</template>
