<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { computed } from 'vue'
import type { Support } from './profiles'

/** How much or what of a support, by its kind. */
const value = defineModel<unknown>({ required: true })
const props = defineProps<{ support: Support }>()
const kind = computed(() => props.support.kind)
const picked = computed(() => (Array.isArray(value.value) ? (value.value as string[]) : []))
const pick = (one: string) =>
  (value.value = (kind.value.options ?? [])
    .map((o) => o.value)
    .filter((o) => (o === one ? !picked.value.includes(o) : picked.value.includes(o))))
const factors = [
  ['1.25', 'time and a quarter'],
  ['1.5', 'time and a half'],
  ['2', 'double time'],
  ['3', 'triple time'],
  ['unlimited', 'no time limit'],
] as const
const other = computed({
  get: () => (value.value as { name?: string } | undefined)?.name ?? '',
  set: (name: string) => (value.value = { name, said: '' }),
})
</script>

<template>
  <fieldset v-if="kind.type !== 'flag'">
    <legend>How much, or what</legend>
    <div v-if="kind.type === 'factor'" class="row">
      <label v-for="[factor, words] in factors" :key="factor" class="option">
        <input type="radio" name="factor" :value="factor" :checked="value === factor" @change="value = factor" />{{ words }}
      </label>
      <label class="option"
        >or times
        <InputText
          type="text"
          inputmode="decimal"
          class="short"
          aria-label="Another factor"
          :model-value="String(value === 'unlimited' ? '' : (value ?? ''))"
          @update:model-value="value = $event ?? ''"
      /></label>
    </div>
    <template v-else-if="kind.type === 'choice'">
      <label v-for="o in kind.options" :key="o.value" class="option">
        <input type="radio" name="choice" :value="o.value" :checked="value === o.value" @change="value = o.value" />{{ o.words }}
      </label>
    </template>
    <template v-else-if="kind.type === 'picks'">
      <label v-for="o in kind.options" :key="o.value" class="option">
        <input type="checkbox" :checked="picked.includes(o.value)" @change="pick(o.value)" />{{ o.words }}
      </label>
    </template>
    <select v-else-if="kind.type === 'language'" v-model="value" aria-label="Language">
      <option v-for="o in kind.options" :key="o.value" :value="o.value">{{ o.words }}</option>
    </select>
    <InputText
      v-else-if="kind.type === 'number'"
      type="number"
      class="short"
      :aria-label="support.name"
      :min="kind.least"
      :max="kind.most"
      :model-value="String(value ?? '')"
      @update:model-value="value = Number($event)"
    />
    <InputText v-else-if="kind.type === 'other'" v-model="other" maxlength="120" aria-label="Name of the support" />
    <InputText
      v-else
      :maxlength="kind.most"
      :aria-label="support.name"
      :model-value="String(value ?? '')"
      @update:model-value="value = $event ?? ''"
    />
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  margin: 10px 0;
  padding: 0;
}
legend {
  font-weight: 600;
  padding: 0;
}
.option {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 28px;
}
.row {
  display: grid;
}
.short {
  width: 110px;
}
input[type='radio'],
input[type='checkbox'] {
  accent-color: var(--pine);
  width: 16px;
  height: 16px;
}
</style>
