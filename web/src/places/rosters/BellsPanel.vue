<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, ref, watch } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'

/** The bell times of a school: typed, pasted from a table, or read from a file. */
const props = defineProps<{ school: number; name: string }>()
const emit = defineEmits<{ close: [] }>()
const key = computed(() => ['bells', props.school])
const query = useQuery({
  queryKey: key,
  queryFn: () => call(api.GET('/schools/{id}/bells', { params: { path: { id: props.school } } })),
})
const typed = ref('')
/** The text as it was looked at, so that nobody's change is lost. */
const was = ref<string>()
watch(
  query.data,
  (now) => {
    if (now && was.value === undefined) was.value = typed.value = now.text
  },
  { immediate: true },
)
const may = computed(() => query.data.value?.mayChange ?? false)
const save = useMutation({
  mutationFn: () =>
    call(
      api.PUT('/schools/{id}/bells', { params: { path: { id: props.school } }, body: { text: typed.value, was: was.value! } }),
    ),
  onSuccess: (now) => {
    queries.setQueryData(key.value, now)
    emit('close')
  },
})
async function read(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file) typed.value = await file.text()
}
</script>

<template>
  <SidePanel :title="`Bell times, ${name}`" @close="emit('close')">
    <p id="bells-hint" class="soft">
      A door that is opened for a period closes by itself when the period is over; all work is kept. One period a line: its name,
      its days, when it begins and ends, parted by commas. A table can be pasted.
    </p>
    <Textarea
      v-model="typed"
      rows="14"
      fluid
      :readonly="!may"
      placeholder="1, Mon-Fri, 8:15 am, 9:05 am"
      maxlength="20000"
      aria-label="Bell times, a period a line"
      aria-describedby="bells-hint"
    />
    <label v-if="may" class="stack"
      >From a file <input type="file" accept=".csv,.txt,.tsv,text/csv,text/plain" @change="read"
    /></label>
    <Trouble :error="query.error.value" />
    <template v-if="may" #footer>
      <Trouble :error="save.error.value" />
      <Button label="Save" :disabled="was === undefined" :loading="save.isPending.value" @click="save.mutate()" />
    </template>
  </SidePanel>
</template>

<style scoped>
textarea {
  font-family: var(--mono);
}
label {
  margin-top: 12px;
}
</style>
