<script setup lang="ts">
/** Our mark: a pine of ruled lines. */
defineProps<{ size: number }>()
</script>

<template>
  <svg
    :width="size"
    :height="size"
    viewBox="0 0 24 24"
    fill="none"
    stroke="currentColor"
    stroke-width="1.5"
    stroke-linecap="round"
    aria-hidden="true"
  >
    <path d="M12 2.500v19M9.500 6h5M8 9.500h8M6.500 13h11M5 16.500h14" />
  </svg>
</template>
