<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import SafeHtml from '@/parts/SafeHtml.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { plural } from '@/contract/format'
import RichText from '@/places/write/RichText.vue'
import { beginning, beginsAt, withoutPart, withoutPool, withPart, type Layout } from './layout'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** Parts with directions and a calculator or none, and pools. Every change saves; undo takes it back. */
const props = defineProps<{ at: number }>()
const emit = defineEmits<{ close: [] }>()
const { sheet, editable, error, arrange } = useOpenSheet()

type Part = Layout['parts'][number]
type Pool = Layout['pools'][number]

function setPart(i: number, change: Partial<Part>) {
  const now = sheet.value.layout.parts[i]
  if (!now || Object.entries(change).every(([key, value]) => now[key as keyof Part] === value)) return
  void arrange((a) => ({
    ...a,
    layout: { ...a.layout, parts: a.layout.parts.map((p, k) => (k === i ? { ...p, ...change } : p)) },
  }))
}
function setPool(i: number, change: Partial<Pool>) {
  void arrange((a) => ({
    ...a,
    layout: { ...a.layout, pools: a.layout.pools.map((p, k) => (k === i ? { ...p, ...change } : p)) },
  }))
}
function begin(i: number, line: number) {
  if (line >= 1 && line <= sheet.value.lines.length + 1) void arrange((a) => beginning(a, i + 1, line))
}
function addPart() {
  const n = sheet.value.layout.parts.length
  void arrange((a) => withPart(a, `Part ${n + 1}`, n === 0 ? 1 : Math.max(2, props.at)))
}
/** Directions are written in the panel and sent when they have been left. */
const written = new Map<number, string>()
function leave(i: number) {
  const directions = written.get(i)
  written.delete(i)
  if (directions !== undefined) setPart(i, { directions })
}
function close() {
  for (const i of [...written.keys()]) leave(i)
  emit('close')
}
const number = (e: Event) => Number((e.target as HTMLInputElement).value)
</script>

<template>
  <SidePanel title="Parts and pools" @close="close">
    <Trouble :error="error" />
    <p v-if="!sheet.layout.parts.length" class="soft">
      A part is a stretch of lines with directions of its own, worked with a calculator or without one.
    </p>
    <section v-for="(p, i) in sheet.layout.parts" :key="i" :aria-label="`Part ${i + 1}`">
      <h3>Part {{ i + 1 }}</h3>
      <div class="field">
        <label :for="`part-title-${i}`">Title</label>
        <InputText
          :id="`part-title-${i}`"
          :model-value="p.title"
          maxlength="120"
          :disabled="!editable"
          @change="setPart(i, { title: ($event.target as HTMLInputElement).value })"
        />
      </div>
      <p v-if="i > 0" class="line">
        <label
          >begins at line
          <input
            type="number"
            min="1"
            :max="sheet.lines.length + 1"
            :value="beginsAt(sheet.lines, i + 1)"
            :disabled="!editable"
            @change="begin(i, number($event))"
        /></label>
      </p>
      <label class="line"
        ><input
          type="checkbox"
          :checked="p.calculator"
          :disabled="!editable"
          @change="setPart(i, { calculator: ($event.target as HTMLInputElement).checked })"
        />
        Students have a calculator on the screen</label
      >
      <div class="field" @focusout="leave(i)">
        <span class="label">Directions</span>
        <RichText
          v-if="editable"
          :model-value="p.directions"
          :label="`Directions of part ${i + 1}`"
          small
          @update:model-value="written.set(i, $event)"
        />
        <SafeHtml v-else :html="p.directions || 'None.'" />
      </div>
      <Button
        v-if="editable"
        label="Remove the part"
        size="small"
        severity="secondary"
        text
        title="Its lines stay."
        @click="arrange((a) => withoutPart(a, i + 1))"
      />
    </section>
    <Button
      v-if="editable"
      :label="sheet.layout.parts.length ? `Begin a part at line ${Math.max(2, at)}` : 'Begin with a first part'"
      severity="secondary"
      outlined
      @click="addPart"
    />
    <h3 class="pools">Pools</h3>
    <p class="soft">
      Of a pool each student gets some lines, drawn when they begin. To make one, mark its lines in the list and say how many each
      student gets. All are worth the same; a passage comes whole.
    </p>
    <section v-for="(p, i) in sheet.layout.pools" :key="i" :aria-label="`Pool ${i + 1}`">
      <div class="field">
        <label :for="`pool-title-${i}`">Pool {{ i + 1 }}, for colleagues</label>
        <InputText
          :id="`pool-title-${i}`"
          :model-value="p.title"
          maxlength="120"
          :disabled="!editable"
          @change="setPool(i, { title: ($event.target as HTMLInputElement).value })"
        />
      </div>
      <p class="line">
        <label
          >each student gets
          <input type="number" min="1" :value="p.choose" :disabled="!editable" @change="setPool(i, { choose: number($event) })"
        /></label>
        of {{ plural(sheet.poolStates[i]?.lines ?? 0, 'line') }}
      </p>
      <Button
        v-if="editable"
        label="Remove the pool"
        size="small"
        severity="secondary"
        text
        title="Its lines stay, for every student."
        @click="arrange((a) => withoutPool(a, i + 1))"
      />
    </section>
    <ul v-if="sheet.faults.length" class="faults" aria-label="What keeps it from being sealed">
      <li v-for="f in sheet.faults" :key="f">{{ f }}</li>
    </ul>
  </SidePanel>
</template>

<style scoped>
section {
  padding: 10px 0 12px;
  border-bottom: 1px solid var(--rule);
  margin-bottom: 10px;
}
h3 {
  margin: 0 0 8px;
}
.pools {
  margin-top: 22px;
}
.line {
  display: flex;
  gap: 6px;
  align-items: center;
  margin: 10px 0;
}
.line input[type='number'] {
  width: 64px;
  height: 30px;
  text-align: right;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
}
.faults {
  color: var(--resin);
  padding-left: 18px;
}
</style>
