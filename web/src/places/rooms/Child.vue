<script setup lang="ts">
import { useBroadcastChannel } from '@vueuse/core'
import { onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import ItemBody from '@/item/ItemBody.vue'
import type { Schemas } from '@/contract/client'
import { childChannel, type ChildView } from './child'

/** The child's window: the picture that the adult's window names, with no trace of the key. */
const sitting = Number(useRoute().params.id)
const shown = ref<Schemas['Shown']>()
const { data, post } = useBroadcastChannel<ChildView, ChildView>({ name: childChannel(sitting) })
watch(data, (m) => {
  if (m && 'shown' in m) shown.value = m.shown
})
onMounted(() => post({ ready: true }))
</script>

<template>
  <main class="child">
    <ItemBody v-if="shown" :model-value="{}" :shown="shown" name="child" read-only />
    <p v-else>A picture comes when the next question does.</p>
  </main>
</template>

<style scoped>
.child {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: 4vh 4vw;
  font-family: var(--reading);
  font-size: 1.5rem;
}
.child :deep(.hint) {
  display: none;
}
.child :deep(img) {
  width: min(86vw, 900px);
  height: auto;
  max-height: 84vh;
  object-fit: contain;
}
</style>
