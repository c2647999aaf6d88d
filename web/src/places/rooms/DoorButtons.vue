<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, call, queries, type Schemas } from '@/contract/client'

/** Opens, pauses and closes one sitting. Closing keeps all work and can be undone by opening again, so nothing is asked. */
const props = defineProps<{ sitting: Schemas['Sitting']; small?: boolean }>()

const busy = ref(false)
const error = ref('')
const inWindow = computed(
  () => Date.now() >= Date.parse(props.sitting.opensAt) && Date.now() < Date.parse(props.sitting.closesAt),
)

async function move(door: 'open' | 'paused' | 'closed') {
  busy.value = true
  error.value = ''
  try {
    const room = await call(api.PUT('/sittings/{id}/door', { params: { path: { id: props.sitting.id } }, body: { door } }))
    queries.setQueryData(['room', props.sitting.id], room)
    await queries.invalidateQueries({ queryKey: ['today'] })
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <span class="row doors">
    <span v-if="error" class="brick" role="alert">{{ error }}</span>
    <Button
      v-if="sitting.door !== 'open'"
      :label="sitting.door === 'waiting' ? 'Open the door' : 'Open again'"
      :size="small ? 'small' : undefined"
      :disabled="!inWindow"
      :loading="busy"
      :aria-label="`Open the door of ${sitting.section}`"
      @click="move('open')"
    />
    <template v-if="sitting.door === 'open'">
      <Button
        label="Pause"
        severity="secondary"
        outlined
        :size="small ? 'small' : undefined"
        :loading="busy"
        :aria-label="`Pause ${sitting.section}`"
        @click="move('paused')"
      />
    </template>
    <Button
      v-if="sitting.door === 'open' || sitting.door === 'paused'"
      label="Close the door"
      severity="secondary"
      outlined
      :size="small ? 'small' : undefined"
      :loading="busy"
      :aria-label="`Close the door of ${sitting.section}`"
      @click="move('closed')"
    />
  </span>
</template>

<style scoped>
.doors {
  justify-content: flex-end;
}
</style>
