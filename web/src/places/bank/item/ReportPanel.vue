<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { capital } from '@/contract/format'

/** Says that something is wrong with an item, from wherever it is seen. */
const props = defineProps<{ id: number; version: number; title: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const faults: Schemas['Fault'][] = ['wrong key', 'unclear', 'wrong alignment', 'picture', 'other']
const fault = ref<Schemas['Fault']>('wrong key')
const words = ref('')
const report = useMutation({
  mutationFn: () =>
    call(
      api.POST('/items/{id}/reports', {
        params: { path: { id: props.id } },
        body: { version: props.version, fault: fault.value, words: words.value },
      }),
    ),
  onSuccess: () => emit('done'),
})
</script>

<template>
  <SidePanel :title="`Report ${title}`" @close="emit('close')">
    <form id="report" @submit.prevent="report.mutate()">
      <p class="soft">
        Its owner and the keepers of its bank find your report on Today, with every assessment that holds the item. You are told
        what came of it.
      </p>
      <fieldset>
        <legend>What is wrong?</legend>
        <label v-for="f in faults" :key="f"
          ><input v-model="fault" type="radio" name="fault" :value="f" /> {{ capital(f) }}</label
        >
      </fieldset>
      <label class="stack"
        >Describe the problem so it can be fixed
        <textarea v-model="words" rows="5" maxlength="2000" required class="p-textarea p-component" />
      </label>
    </form>
    <template #footer>
      <Trouble :error="report.error.value" />
      <Button type="submit" form="report" label="Report" :loading="report.isPending.value" />
    </template>
  </SidePanel>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 12px;
}
legend {
  font-weight: 650;
}
fieldset label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 28px;
}
input {
  accent-color: var(--pine);
}
</style>
