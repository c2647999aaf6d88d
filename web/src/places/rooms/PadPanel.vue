<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'

/** What a student wrote and drew on their scratch pad. It is not scored; the look is in the ledger. */
const props = defineProps<{ sitting: number; student: number }>()
const emit = defineEmits<{ close: [] }>()
const pad = useQuery({
  queryKey: ['pad', computed(() => props.sitting), computed(() => props.student)],
  queryFn: () =>
    call(api.GET('/sittings/{id}/students/{student}/pad', { params: { path: { id: props.sitting, student: props.student } } })),
  staleTime: 60_000,
})
const read = <T,>(text: string | undefined, none: T): T => {
  try {
    return text ? (JSON.parse(text) as T) : none
  } catch {
    return none
  }
}
const notes = computed(() => read(pad.data.value?.notes, ''))
const strokes = computed(() => read<number[][]>(pad.data.value?.drawing, []))
const path = (s: number[]) => s.map((v, i) => (i % 2 ? v : `${i ? 'L' : 'M'}${v}`)).join(' ')
</script>

<template>
  <SidePanel :title="pad.data.value ? `Scratch pad of ${pad.data.value.student}` : 'Scratch pad'" @close="emit('close')">
    <Trouble :error="pad.error.value ?? undefined" />
    <template v-if="pad.data.value">
      <p v-if="!notes && !strokes.length">It is empty.</p>
      <p v-if="notes" class="notes">{{ notes }}</p>
      <svg v-if="strokes.length" viewBox="0 0 300 260" role="img" :aria-label="`A drawing of ${strokes.length} lines`">
        <path v-for="(s, i) in strokes" :key="i" :d="path(s)" />
      </svg>
      <p class="soft">Nothing of it is scored. This look is in the Ledger.</p>
    </template>
  </SidePanel>
</template>

<style scoped>
.notes {
  white-space: pre-line;
}
svg {
  width: 100%;
  border: 1px solid var(--rule-strong);
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
