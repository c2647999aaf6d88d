<script setup lang="ts" generic="T extends string | number">
/** Several of a list. None of them means all, which is said. */
const chosen = defineModel<T[]>({ required: true })
defineProps<{ legend: string; options: { id: T; name: string }[]; none: string }>()
function toggle(id: T) {
  chosen.value = chosen.value.includes(id) ? chosen.value.filter((x) => x !== id) : [...chosen.value, id]
}
</script>

<template>
  <fieldset>
    <legend>
      {{ legend }} <span class="soft">{{ chosen.length ? `${chosen.length} chosen` : none }}</span>
    </legend>
    <div class="options">
      <label v-for="o in options" :key="o.id">
        <input type="checkbox" :checked="chosen.includes(o.id)" @change="toggle(o.id)" />{{ o.name }}
      </label>
    </div>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 14px;
}
legend {
  font-weight: 600;
  padding: 0;
  border-bottom: 1.5px solid var(--ink);
  width: 100%;
  margin-bottom: 4px;
}
legend .soft {
  font-weight: 400;
}
.options {
  columns: 2;
  max-height: 220px;
  overflow: auto;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 26px;
  break-inside: avoid;
}
input {
  accent-color: var(--pine);
}
</style>
