<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call, ProblemError, type Schemas } from '@/contract/client'
import { useSession } from '@/contract/session'
import { keepSheet } from './lines'
import OutlineFields from './OutlineFields.vue'

const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const { session } = useSession()
const outline = ref<Schemas['Outline']>({
  title: '',
  shortTitle: '',
  description: '',
  instructions: '',
  subject: 'mathematics',
  grades: [],
  purpose: 'benchmark',
  language: 'en',
  year: session.value?.year ?? '',
})
const error = ref<ProblemError>()
const busy = ref(false)

async function start() {
  busy.value = true
  try {
    const sheet = keepSheet(await call(api.POST('/assessments', { body: outline.value })))
    emit('close')
    await router.push(`/assessments/${sheet.id}/blueprint`)
  } catch (e) {
    error.value = e as ProblemError
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Dialog :visible="true" modal header="Start an assessment" :style="{ width: '560px' }" @update:visible="emit('close')">
    <form id="start" @submit.prevent="start">
      <OutlineFields v-model="outline" :error="error" short />
      <Trouble :error="error" />
    </form>
    <template #footer>
      <Button label="Leave it" severity="secondary" text @click="emit('close')" />
      <Button type="submit" form="start" label="Start blank" :loading="busy" />
    </template>
  </Dialog>
</template>
