<script setup lang="ts">
import Button from 'primevue/button'
import ProgressBar from 'primevue/progressbar'
import { computed } from 'vue'
import type { Draw } from './useDraw'

/** A draw under way: how much of its time is used, and a way out. */
const props = defineProps<{ draw?: Draw }>()
defineEmits<{ cancel: [] }>()
const share = computed(() => (props.draw?.budget ? Math.min(100, Math.round((100 * props.draw.elapsed) / props.draw.budget)) : 0))
</script>

<template>
  <div class="running" role="status">
    <p>
      Drawing…
      <span v-if="draw" class="soft"
        >{{ (draw.elapsed / 1000).toFixed(1) }} s of {{ draw.budget / 1000 }} s; it ends as soon as the best is proven.</span
      >
    </p>
    <ProgressBar :value="share" :show-value="false" aria-label="Time used" />
    <Button v-if="draw" label="Stop" size="small" severity="secondary" outlined @click="$emit('cancel')" />
  </div>
</template>

<style scoped>
.running {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.running :deep(.p-progressbar) {
  width: 100%;
  height: 8px;
}
p {
  margin: 0;
}
</style>
