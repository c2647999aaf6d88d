<script setup lang="ts">
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'

/** The title of a part, with its directions: open where the part begins, in reach everywhere else. */
defineProps<{ part: Schemas['TestPart']; open: boolean }>()
</script>

<template>
  <section class="part" :aria-label="part.title">
    <details v-if="part.directions" :open="open">
      <summary>{{ part.title }}</summary>
      <SafeHtml :html="part.directions" data-read="directions" />
    </details>
    <p v-else>{{ part.title }}</p>
  </section>
</template>

<style scoped>
.part {
  margin-bottom: 18px;
  padding-bottom: 10px;
  border-bottom: 1px solid var(--rule);
}
summary,
p {
  margin: 0;
  font-weight: 600;
}
summary {
  cursor: pointer;
  min-height: 32px;
}
</style>
