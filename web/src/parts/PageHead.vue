<script setup lang="ts">
defineProps<{ title: string; note?: string }>()
</script>

<template>
  <div class="head">
    <div>
      <h1>{{ title }}</h1>
      <p class="soft">
        <slot name="note">{{ note }}</slot>
      </p>
    </div>
    <div class="row"><slot /></div>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: flex-start;
  gap: 16px;
  margin-bottom: 12px;
}
.head > div:first-child {
  min-width: 0;
}
p {
  margin: 5px 0 0;
  min-height: 19px;
}
.row {
  flex-shrink: 0;
}
</style>
