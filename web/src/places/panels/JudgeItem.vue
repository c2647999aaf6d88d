<script setup lang="ts">
import SelectButton from 'primevue/selectbutton'
import Textarea from 'primevue/textarea'
import { computed, ref, watch } from 'vue'
import ItemBody from '@/item/ItemBody.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'

/** The item in view, with its key or without, and the judge's own note of it. */
const props = defineProps<{ asked: Schemas['PanelAsked']; line: number; note: string }>()
const emit = defineEmits<{ note: [words: string] }>()
const way = ref<'plain' | 'key'>('plain')
const l = computed(() => props.asked.lines[props.line]!)
const passage = computed(() => props.asked.passages.find((p) => p.identifier === l.value.passage))
const words = ref('')
watch(
  () => [props.line, props.note],
  () => (words.value = props.note),
  { immediate: true },
)
function keep() {
  if (words.value.trim() !== props.note) emit('note', words.value)
}
</script>

<template>
  <aside class="item-in-view" aria-label="Item in view">
    <div class="top">
      <h2>
        Line {{ line + 1 }} <span class="mono soft">{{ l.identifier }}</span>
        <span class="soft worth">{{ plural(l.points, 'point') }}</span>
      </h2>
      <SelectButton
        v-model="way"
        :options="[
          { value: 'plain', label: 'Without key' },
          { value: 'key', label: 'With key' },
        ]"
        option-label="label"
        option-value="value"
        :allow-empty="false"
        size="small"
        aria-label="Look at the item"
      />
    </div>
    <div class="card" tabindex="0" role="group" :aria-label="`Line ${line + 1}`">
      <details v-if="passage" :key="passage.identifier">
        <summary>{{ passage.title }}</summary>
        <SafeHtml :html="passage.body" :lang="passage.language" />
      </details>
      <ItemBody
        :key="line"
        :shown="l.shown"
        :name="`judge-${line}`"
        :model-value="{}"
        read-only
        :keys="way === 'key' ? l.keys : undefined"
      />
      <p v-if="way === 'key'">
        <strong>Key {{ l.key }}</strong>
      </p>
    </div>
    <label class="note">
      Your note of this line
      <Textarea v-model="words" rows="2" maxlength="2000" placeholder="What a student at a cut would stumble over" @blur="keep" />
      <span class="soft">The chair reads it. It stays for all rounds.</span>
    </label>
  </aside>
</template>

<style scoped>
.item-in-view {
  position: sticky;
  top: 0;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  margin-bottom: 8px;
}
.worth {
  margin-left: 8px;
  font-weight: 400;
}
h2 {
  margin: 0;
  font: 600 14px var(--sans);
}
.card {
  border: 1px solid var(--rule);
  padding: 14px;
  font-family: var(--reading);
  font-size: 15px;
  max-height: 52vh;
  overflow: auto;
}
details {
  margin-bottom: 12px;
  border-bottom: 1px solid var(--rule);
}
summary {
  font-weight: 650;
  cursor: pointer;
  padding: 4px 0;
}
.note {
  display: grid;
  gap: 4px;
  margin-top: 10px;
  font-weight: 600;
}
.note .soft {
  font-weight: 400;
  font-size: 12.5px;
}
</style>
