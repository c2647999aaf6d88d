<script setup lang="ts" generic="T extends string | number">
/** One of a few: the browser's own list, which every device shows in its best way. */
defineProps<{ options: readonly { value: T; label: string }[]; placeholder?: string }>()
const model = defineModel<T>()
</script>

<template>
  <select v-model="model">
    <option v-if="placeholder" :value="undefined" disabled>{{ placeholder }}</option>
    <option v-for="o in options" :key="o.value" :value="o.value">{{ o.label }}</option>
  </select>
</template>
