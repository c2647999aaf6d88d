<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import { plural } from '@/contract/format'
import { readTex } from './formula'

/** A formula typed as TeX, with a palette for those who do not know it, and seen at once. */
const props = defineProps<{ tex: string }>()
const emit = defineEmits<{ done: [mathml: string]; close: [] }>()

const tex = ref(props.tex)
const box = useTemplateRef<HTMLTextAreaElement>('box')
const read = ref({ mathml: '', problem: '' })
const empty = computed(() => !tex.value.trim())
/** What is still to be typed stands as this; Tab goes from one to the next. */
const blank = '□'
const blanks = computed(() => tex.value.split(blank).length - 1)
watch(
  tex,
  async (now) => {
    const seen = now.trim() ? await readTex(now.replaceAll(blank, '{\\square}'), false) : { mathml: '', problem: '' }
    if (now === tex.value) read.value = seen
  },
  { immediate: true },
)
/** Puts in what stands in the box, also when it was typed faster than it is read. */
async function putIn() {
  if (empty.value || blanks.value) return
  const { mathml } = await readTex(tex.value, false)
  if (mathml) emit('done', mathml)
}

/** What each key of the palette puts in; each ? is a blank, and the first takes what was selected. */
const palette: [shown: string, tex: string, name: string][] = [
  ['a⁄b', '\\frac{?}{?}', 'fraction'],
  ['xⁿ', '?^{?}', 'power'],
  ['xₙ', '?_{?}', 'index'],
  ['√', '\\sqrt{?}', 'square root'],
  ['ⁿ√', '\\sqrt[?]{?}', 'root'],
  ['×', '\\times ', 'times'],
  ['÷', '\\div ', 'divided by'],
  ['·', '\\cdot ', 'dot'],
  ['±', '\\pm ', 'plus or minus'],
  ['≤', '\\le ', 'at most'],
  ['≥', '\\ge ', 'at least'],
  ['≠', '\\ne ', 'not equal'],
  ['≈', '\\approx ', 'about'],
  ['°', '^{\\circ}', 'degrees'],
  ['π', '\\pi ', 'pi'],
  ['∠', '\\angle ', 'angle'],
  ['△', '\\triangle ', 'triangle'],
  ['( )', '\\left(?\\right)', 'parentheses'],
]
async function put(piece: string) {
  const el = box.value!
  const [from, to] = [el.selectionStart, el.selectionEnd]
  const chosen = tex.value.slice(from, to)
  const filled = (chosen && chosen !== blank ? piece.replace('?', chosen) : piece).replaceAll('?', blank)
  tex.value = tex.value.slice(0, from) + filled + tex.value.slice(to)
  el.focus()
  await nextTick() // the box has the new text
  if (!toBlank(from, 1)) el.setSelectionRange(from + filled.length, from + filled.length)
}
/** Selects the next blank, or the one before; false where there is none that way. */
function toBlank(from: number, by: 1 | -1): boolean {
  const at = by > 0 ? tex.value.indexOf(blank, from) : from > 0 ? tex.value.lastIndexOf(blank, from - 1) : -1
  if (at < 0) return false
  box.value!.setSelectionRange(at, at + 1)
  return true
}
/** What is typed beside a blank takes its place. */
async function onInput(e: Event) {
  const typed = (e as InputEvent).data
  const el = box.value!
  if (!typed || typed === blank) return
  const at = el.selectionStart
  const behind = tex.value[at] === blank
  const gone = behind ? at : at - typed.length - 1
  if (tex.value[gone] !== blank) return
  tex.value = tex.value.slice(0, gone) + tex.value.slice(gone + 1)
  await nextTick()
  const to = behind ? at : at - 1
  el.setSelectionRange(to, to)
}
function onTab(e: KeyboardEvent) {
  const { selectionStart, selectionEnd } = box.value!
  if (e.shiftKey ? toBlank(selectionStart, -1) : toBlank(selectionEnd, 1)) e.preventDefault()
}
</script>

<template>
  <div class="formula" role="group" aria-label="Formula" @keydown.esc.stop.prevent="emit('close')">
    <div class="palette">
      <button
        v-for="[shown, piece, what] in palette"
        :key="what"
        type="button"
        :aria-label="what"
        :title="what"
        @click="put(piece)"
      >
        {{ shown }}
      </button>
    </div>
    <textarea
      ref="box"
      v-model="tex"
      rows="2"
      class="mono"
      maxlength="2000"
      spellcheck="false"
      aria-label="Formula in TeX"
      @keydown.enter.exact.prevent="putIn"
      @keydown.tab="onTab"
      @input="onInput"
    />
    <div class="seen" aria-live="polite">
      <p v-if="read.problem" class="resin">{{ read.problem }}</p>
      <!-- MathML of the formula typed here; it is cleaned again where it is kept. -->
      <SafeHtml v-else-if="read.mathml" :html="read.mathml" />
      <p v-else class="soft">The formula is seen here.</p>
      <p v-if="blanks" class="soft">{{ plural(blanks, 'blank') }} to fill in: Tab goes to the next.</p>
    </div>
    <div class="row">
      <Button label="Insert" size="small" :disabled="empty || !!blanks || !read.mathml" @click="putIn" />
      <Button label="Cancel" size="small" severity="secondary" text @click="emit('close')" />
    </div>
  </div>
</template>

<style scoped>
.formula {
  display: grid;
  gap: 8px;
  padding: 10px;
  border: 1px solid var(--rule-strong);
  background: var(--tint);
}
.palette {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
}
.palette button {
  min-width: 32px;
  min-height: 28px;
  font: inherit;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: inherit;
  cursor: pointer;
}
textarea {
  width: 100%;
  padding: 6px 8px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: inherit;
  resize: vertical;
}
.seen {
  min-height: 34px;
  font-size: 1.2em;
}
.seen p {
  font-size: 0.82em;
  margin: 4px 0;
}
</style>
