<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, nextTick, useTemplateRef } from 'vue'
import { api, call, queries, ProblemError, type Schemas } from '@/contract/client'
import * as roomQueries from '@/queries/rooms'

/** Opens, pauses and closes one sitting. Closing keeps all work and can be undone by opening again, so nothing is asked. */
const props = defineProps<{ sitting: Schemas['Sitting']; small?: boolean }>()

const buttons = useTemplateRef<HTMLElement>('buttons')
const inWindow = computed(
  () => Date.now() >= Date.parse(props.sitting.opensAt) && Date.now() < Date.parse(props.sitting.closesAt),
)

const door = useMutation({
  mutationFn: (to: 'open' | 'paused' | 'closed') =>
    call(api.PUT('/sittings/{id}/door', { params: { path: { id: props.sitting.id } }, body: { door: to } })),
  onSuccess: async (room) => {
    queries.setQueryData(roomQueries.room(props.sitting.id).queryKey, room)
    await queries.invalidateQueries({ queryKey: roomQueries.today.queryKey })
    await nextTick()
    // The button that was pressed has made way for others.
    if (document.activeElement === document.body) buttons.value?.querySelector<HTMLElement>('button:enabled')?.focus()
  },
  // Somebody was quicker: show how the door stands, and say so.
  onError: async (e) => {
    if (!(e instanceof ProblemError) || e.status !== 409) return
    await Promise.all([
      queries.invalidateQueries({ queryKey: roomQueries.room(props.sitting.id).queryKey }),
      queries.invalidateQueries({ queryKey: roomQueries.today.queryKey }),
    ])
  },
})
const said = computed(() => {
  const e = door.error.value
  if (e instanceof ProblemError && e.status === 409)
    return `Somebody else moved the door meanwhile: it is ${props.sitting.door} now. Press again if it should be otherwise.`
  return e?.message
})
</script>

<template>
  <span ref="buttons" class="row doors">
    <span class="out-of-sight" role="status">{{ door.isSuccess.value ? `The door is ${sitting.door}.` : '' }}</span>
    <span v-if="said" class="brick" role="alert">{{ said }}</span>
    <Button
      v-if="sitting.door !== 'open'"
      :label="sitting.door === 'waiting' ? 'Open the door' : 'Open again'"
      :size="small ? 'small' : undefined"
      :disabled="!inWindow"
      :loading="door.isPending.value"
      :aria-label="`Open the door of ${sitting.section}`"
      @click="door.mutate('open')"
    />
    <template v-if="sitting.door === 'open'">
      <Button
        label="Pause"
        severity="secondary"
        outlined
        :size="small ? 'small' : undefined"
        :loading="door.isPending.value"
        :aria-label="`Pause ${sitting.section}`"
        @click="door.mutate('paused')"
      />
    </template>
    <Button
      v-if="sitting.door === 'open' || sitting.door === 'paused'"
      label="Close the door"
      severity="secondary"
      outlined
      :size="small ? 'small' : undefined"
      :loading="door.isPending.value"
      :aria-label="`Close the door of ${sitting.section}`"
      @click="door.mutate('closed')"
    />
  </span>
</template>

<style scoped>
.doors {
  justify-content: flex-end;
}
</style>
