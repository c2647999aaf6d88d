<script setup lang="ts">
import { IconGripVertical, IconPin, IconTrash } from '@tabler/icons-vue'
import Button from 'primevue/button'
import { nextTick, ref, useTemplateRef } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { letter } from '@/item/letter'
import { addChoice, dropChoice, moveChoice, placeOf, type DocumentChoice, type ItemDocument, type Part } from './document'
import RichText from './RichText.vue'

/** Choices or targets of a place to answer: as many as wanted, in any order. */
const props = defineProps<{
  document: ItemDocument
  part: Part
  side: 'choices' | 'targets'
  title: string
  /** What one of them is called. */
  one: string
  pins?: boolean
}>()

const list = useTemplateRef<HTMLElement>('list')
const said = ref('')
const name = (i: number) => (props.side === 'targets' ? String(i + 1) : letter(i))
const place = (i: number) => placeOf(props.part, `${props.side}[${i}]`)

async function add() {
  addChoice(props.document, props.part, props.side)
  await nextTick()
  list.value?.querySelector<HTMLElement>('li:last-child [role=textbox]')?.focus()
}
function drop(c: DocumentChoice) {
  dropChoice(props.document, props.part, props.side, c.id)
}
async function move(from: number, to: number) {
  const count = props.part.place[props.side]?.length ?? 0
  if (to < 0 || to >= count) return
  moveChoice(props.document, props.part, props.side, from, to)
  said.value = `${props.one} moved to place ${to + 1} of ${count}`
  await nextTick()
  list.value?.querySelectorAll<HTMLElement>('.grip')[to]?.focus()
}
function dragged(e: { oldIndex?: number; newIndex?: number }) {
  if (e.oldIndex !== undefined && e.newIndex !== undefined)
    moveChoice(props.document, props.part, props.side, e.oldIndex, e.newIndex)
}
function onKey(e: KeyboardEvent, i: number) {
  const by = { ArrowUp: -1, ArrowDown: 1 }[e.key]
  if (!by) return
  e.preventDefault()
  void move(i, i + by)
}
</script>

<template>
  <section class="choices">
    <h3>{{ title }}</h3>
    <div ref="list">
      <!-- The list is moved by moveChoice, in every language; the dragging only says where to. -->
      <VueDraggable :model-value="[...(part.place[side] ?? [])]" tag="ul" handle=".grip" :animation="120" @end="dragged">
        <li v-for="(c, i) in part.place[side] ?? []" :id="place(i)" :key="c.id">
          <button
            type="button"
            class="grip"
            :aria-label="`${one} ${name(i)}: move with the arrow keys`"
            title="Drag, or move with the arrow keys"
            @keydown="onKey($event, i)"
          >
            <IconGripVertical :size="15" aria-hidden="true" />
          </button>
          <span class="name mono">{{ name(i) }}</span>
          <RichText v-model="c.html" :label="`${one} ${name(i)}`" small class="html" />
          <button
            v-if="pins"
            type="button"
            class="tool"
            :aria-pressed="!!c.pinned"
            :aria-label="`Pin ${one} ${name(i)} to its place`"
            title="Keeps its place when choices are mixed"
            @click="c.pinned = c.pinned ? undefined : true"
          >
            <IconPin :size="16" aria-hidden="true" />
          </button>
          <button type="button" class="tool" :aria-label="`Delete ${one} ${name(i)}`" title="Delete" @click="drop(c)">
            <IconTrash :size="16" aria-hidden="true" />
          </button>
        </li>
      </VueDraggable>
    </div>
    <Button :label="`Add a ${one}`" size="small" severity="secondary" outlined @click="add" />
    <p class="out-of-sight" role="status">{{ said }}</p>
  </section>
</template>

<style scoped>
h3 {
  font-size: 13px;
  font-weight: 650;
  margin: 0 0 6px;
}
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  display: grid;
  gap: 6px;
}
li {
  display: flex;
  align-items: flex-start;
  gap: 4px;
}
.html {
  flex: 1;
  min-width: 0;
}
.grip,
.tool {
  display: grid;
  place-items: center;
  width: 26px;
  height: 34px;
  padding: 0;
  border: 1px solid transparent;
  background: none;
  color: var(--ink-soft);
  cursor: pointer;
}
.grip {
  cursor: grab;
  width: 20px;
}
.tool:hover,
.grip:hover {
  border-color: var(--rule-strong);
}
.tool[aria-pressed='true'] {
  background: var(--pine);
  color: var(--on-pine);
}
.name {
  width: 18px;
  line-height: 34px;
  font-weight: 700;
}
</style>
