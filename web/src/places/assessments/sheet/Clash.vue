<script setup lang="ts">
import Button from 'primevue/button'

/** Two people changed the same part: which of the two shall stand? */
defineProps<{ by: string }>()
defineEmits<{ theirs: []; mine: [] }>()
</script>

<template>
  <div class="clash" role="alert">
    <p>
      <strong>{{ by }} changed this meanwhile.</strong> What you typed is still here and is not saved yet.
    </p>
    <div class="row">
      <Button label="Show theirs" size="small" severity="secondary" outlined @click="$emit('theirs')" />
      <Button label="Keep mine over theirs" size="small" severity="secondary" outlined @click="$emit('mine')" />
    </div>
  </div>
</template>

<style scoped>
.clash {
  border-left: 3px solid var(--resin);
  background: var(--resin-tint);
  padding: 8px 12px 10px;
  margin: 8px 0;
}
p {
  margin: 0 0 8px;
}
</style>
