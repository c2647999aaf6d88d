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
/* The note runs under the actions, however many there are. */
.head {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: start;
  column-gap: 16px;
  margin-bottom: 12px;
}
.head > div:first-child {
  display: contents;
}
p {
  grid-column: 1 / -1;
  order: 1;
  margin: 5px 0 0;
  min-height: 19px;
}
.row {
  flex-wrap: wrap;
  justify-content: flex-end;
}
@media (max-width: 860px) {
  .head {
    grid-template-columns: minmax(0, 1fr);
    row-gap: 8px;
  }
  .row {
    order: 2;
    justify-content: flex-start;
  }
}
</style>
