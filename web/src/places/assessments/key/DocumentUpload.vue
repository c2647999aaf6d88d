<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** Puts a PDF on the assessment, or another in its place. What is refused is said by the sheet. */
defineProps<{ again: boolean }>()
const { putDocument } = useOpenSheet()
const file = ref<HTMLInputElement>()
const put = useMutation({
  mutationFn: putDocument,
  onSettled: () => (file.value!.value = ''),
})
function putChosen() {
  const chosen = file.value?.files?.[0]
  if (chosen) put.mutate(chosen)
}
</script>

<template>
  <input
    ref="file"
    type="file"
    accept="application/pdf,.pdf"
    class="out-of-sight"
    aria-label="PDF of the test"
    tabindex="-1"
    @change="putChosen"
  />
  <Button
    :label="again ? 'Another PDF' : 'Choose the PDF'"
    :severity="again ? 'secondary' : undefined"
    :outlined="again"
    size="small"
    :loading="put.isPending.value"
    @click="file?.click()"
  />
</template>
