<script setup lang="ts">
/** Formatted text of an item or passage. The server reduced it to the safe subset when it came in. */
defineProps<{ html: string; tag?: string }>()
</script>

<template>
  <!-- eslint-disable-next-line vue/no-v-html, vue/no-v-text-v-html-on-component -- the one place where it is used -->
  <component :is="tag ?? 'div'" v-html="html" />
</template>
