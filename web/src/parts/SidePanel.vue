<script setup lang="ts">
import Drawer from 'primevue/drawer'

/** Slides over the right third and keeps the list in view. */
defineProps<{ title: string; width?: string }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <Drawer
    :visible="true"
    position="right"
    :modal="false"
    :header="title"
    :aria-label="title"
    :style="{ width: width ?? 'max(430px, 34vw)' }"
    :close-button-props="{ 'aria-label': 'Close', severity: 'secondary', text: true, rounded: true }"
    @update:visible="emit('close')"
  >
    <slot />
    <template v-if="$slots.footer" #footer><slot name="footer" /></template>
  </Drawer>
</template>
