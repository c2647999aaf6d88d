<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed } from 'vue'
import type { Setting } from './settings'

/** The value of one setting, typed or chosen, by its kind. */
const value = defineModel<unknown>({ required: true })
const props = defineProps<{ setting: Setting; disabled?: boolean }>()

const options = computed(() => (props.setting.kind.options ?? []).map((o) => ({ value: o.value, label: o.words })))
const list = computed(() => (Array.isArray(value.value) ? (value.value as string[]) : []))
const stretches = computed(() => (Array.isArray(value.value) ? (value.value as { from: string; to: string }[]) : []))
const id = computed(() => `setting-${props.setting.key}`)

function pick(one: string, on: boolean) {
  const order = options.value.map((o) => o.value)
  value.value = order.filter((o) => (o === one ? on : list.value.includes(o)))
}
const stretch = (at: number, part: Partial<{ from: string; to: string }>) =>
  (value.value = stretches.value.map((s, i) => (i === at ? { ...s, ...part } : s)))
const addStretch = () => (value.value = [...stretches.value, { from: stretches.value.at(-1)?.to ?? '08:45', to: '' }])
const addDay = (day: string) => day && (value.value = [...new Set([...list.value, day])].sort())
const dayName = (day: string) =>
  new Date(`${day}T12:00:00Z`).toLocaleDateString('en-US', {
    timeZone: 'UTC',
    weekday: 'short',
    month: 'short',
    day: 'numeric',
    year: 'numeric',
  })
</script>

<template>
  <fieldset :disabled="disabled">
    <legend class="out-of-sight">{{ setting.name }}</legend>
    <template v-if="setting.kind.type === 'flag' || setting.kind.type === 'choice'">
      <label v-for="o in options" :key="o.value" class="option">
        <input
          type="radio"
          :name="id"
          :value="o.value"
          :checked="String(value) === o.value"
          @change="value = setting.kind.type === 'flag' ? o.value === 'true' : o.value"
        />{{ o.label }}
      </label>
    </template>
    <template v-else-if="setting.kind.type === 'picks'">
      <label v-for="o in options" :key="o.value" class="option">
        <input type="checkbox" :checked="list.includes(o.value)" @change="pick(o.value, !list.includes(o.value))" />{{ o.label }}
      </label>
    </template>
    <div v-else-if="setting.kind.type === 'number'" class="number">
      <InputText
        :id="id"
        type="number"
        :aria-label="setting.name"
        :min="setting.kind.least"
        :max="setting.kind.most"
        :model-value="String(value ?? '')"
        @update:model-value="value = $event === '' ? undefined : Number($event)"
      />
      <span class="soft">{{ setting.kind.least }} to {{ setting.kind.most }}</span>
    </div>
    <template v-else-if="setting.kind.type === 'hours'">
      <div v-for="(s, i) in stretches" :key="i" class="stretch">
        <InputText
          type="time"
          :aria-label="`Stretch ${i + 1} begins`"
          :model-value="s.from"
          @update:model-value="stretch(i, { from: $event ?? '' })"
        />
        to
        <InputText
          type="time"
          :aria-label="`Stretch ${i + 1} ends`"
          :model-value="s.to"
          @update:model-value="stretch(i, { to: $event ?? '' })"
        />
        <Button
          label="Remove"
          size="small"
          severity="secondary"
          text
          :aria-label="`Remove stretch ${i + 1}`"
          @click="value = stretches.filter((_, k) => k !== i)"
        />
      </div>
      <p v-if="!stretches.length" class="soft">All day.</p>
      <Button label="Add a stretch of the day" size="small" severity="secondary" outlined @click="addStretch" />
    </template>
    <template v-else-if="setting.kind.type === 'days'">
      <ul v-if="list.length">
        <li v-for="day in list" :key="day">
          {{ dayName(day) }}
          <Button
            label="Remove"
            size="small"
            severity="secondary"
            text
            :aria-label="`Remove ${dayName(day)}`"
            @click="value = list.filter((d) => d !== day)"
          />
        </li>
      </ul>
      <label class="field"
        >Add a day<InputText type="date" model-value="" @change="addDay(($event.target as HTMLInputElement).value)"
      /></label>
    </template>
    <InputText
      v-else-if="setting.kind.type === 'moment'"
      :id="id"
      type="datetime-local"
      :aria-label="setting.name"
      :model-value="String(value ?? '')"
      @update:model-value="value = $event ?? ''"
    />
    <Textarea
      v-else
      :id="id"
      rows="5"
      fluid
      :aria-label="setting.name"
      :maxlength="setting.kind.most"
      :model-value="String(value ?? '')"
      @update:model-value="value = $event ?? ''"
    />
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  min-width: 0;
}
.option {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 28px;
}
input[type='radio'],
input[type='checkbox'] {
  accent-color: var(--pine);
  width: 16px;
  height: 16px;
}
.number,
.stretch,
li {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-bottom: 6px;
}
.number :deep(input) {
  width: 110px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
li {
  justify-content: space-between;
  border-bottom: 1px solid var(--rule);
  margin: 0;
}
</style>
