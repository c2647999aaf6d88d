<script setup lang="ts">
/** Words with those marked that a search found. */
defineProps<{ runs: { text: string; hit: boolean }[] }>()
</script>

<template>
  <template v-for="(r, i) in runs" :key="i"
    ><mark v-if="r.hit">{{ r.text }}</mark
    ><template v-else>{{ r.text }}</template></template
  >
</template>

<style scoped>
mark {
  background: var(--resin-tint);
  color: inherit;
  box-shadow: inset 0 -2px 0 var(--resin);
}
</style>
