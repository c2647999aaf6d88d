<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { useNow } from '@vueuse/core'
import Button from 'primevue/button'
import { computed } from 'vue'
import Note from '@/parts/Note.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { clockTime, plural } from '@/contract/format'

/** When an open door closes by itself, since its period is over; a warning before it, and more time in one press. */
const props = defineProps<{ sitting: Schemas['Sitting']; at: string }>()
const emit = defineEmits<{ changed: [room: Schemas['Room']] }>()
/** How long before it one is warned, in minutes. */
const warned = 5
const now = useNow({ interval: 5_000 })
const left = computed(() => Math.max(0, Math.ceil((Date.parse(props.at) - now.value.getTime()) / 60_000)))
const soon = computed(() => left.value <= warned)
const longer = useMutation({
  mutationFn: (untilClosed: boolean) =>
    call(api.POST('/sittings/{id}/door/longer', { params: { path: { id: props.sitting.id } }, body: { untilClosed } })),
  onSuccess: (room) => emit('changed', room),
})
</script>

<template>
  <Note v-if="soon">
    <div class="line">
      <span role="alert"
        ><strong>The door closes by itself in {{ plural(left, 'minute') }}</strong
        >, at {{ clockTime(at) }}. All work is kept.</span
      >
      <Button label="Ten minutes more" size="small" :loading="longer.isPending.value" @click="longer.mutate(false)" />
      <Button
        label="Leave it open"
        size="small"
        severity="secondary"
        text
        :disabled="longer.isPending.value"
        @click="longer.mutate(true)"
      />
    </div>
  </Note>
  <p v-else class="soft">
    The door closes by itself at {{ clockTime(at) }}, at the end of the period; all work is kept.
    <button type="button" class="link-button" :disabled="longer.isPending.value" @click="longer.mutate(false)">
      Ten minutes more
    </button>
    <button type="button" class="link-button" :disabled="longer.isPending.value" @click="longer.mutate(true)">
      Leave it open
    </button>
  </p>
  <Trouble :error="longer.error.value" />
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
.link-button {
  margin-left: 8px;
}
</style>
