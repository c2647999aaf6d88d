<script setup lang="ts">
import { Image } from '@tiptap/extension-image'
import { Subscript } from '@tiptap/extension-subscript'
import { Superscript } from '@tiptap/extension-superscript'
import { TableKit } from '@tiptap/extension-table'
import StarterKit from '@tiptap/starter-kit'
import { EditorContent, useEditor } from '@tiptap/vue-3'
import {
  IconBold,
  IconItalic,
  IconList,
  IconListNumbers,
  IconMath,
  IconPhoto,
  IconLibraryPhoto,
  IconSubscript,
  IconSuperscript,
  IconTable,
  IconUnderline,
  IconVocabulary,
  IconVolume,
} from '@tabler/icons-vue'
import { useMousePressed } from '@vueuse/core'
import { computed, ref, useId, useTemplateRef, watch, type Component } from 'vue'
import { Formula, Sound, texOf } from './formula'
import type { Schemas } from '@/contract/client'
import ShelfPicker from '@/places/bank/shelf/ShelfPicker.vue'
import { keepMedia } from './media'
import { MarkedWord, useWordHelp } from './wordHelp'
import FormulaPanel from './FormulaPanel.vue'

/**
 * Formatted text in the safe subset: the same that the server lets in. Its tools show
 * while it is being written.
 */
const html = defineModel<string>({ required: true })
const props = defineProps<{ label: string; small?: boolean; /** No word of it is explained. */ plain?: boolean; lang?: string }>()
const help = useWordHelp()

const id = useId()
const file = useTemplateRef<HTMLInputElement>('file')
const writing = ref(false)
const problem = ref('')
const formula = ref<string>()
const picking = ref(false)
const sending = ref(false)

/** A single paragraph is kept without its tag, as short texts are everywhere. */
function unwrapped(text: string): string {
  const only = /^<p>((?:(?!<\/?p>)[\s\S])*)<\/p>$/.exec(text)
  return only ? only[1]! : text
}

const editor = useEditor({
  content: html.value,
  injectCSS: false,
  extensions: [
    StarterKit.configure({
      heading: { levels: [3, 4] },
      code: false,
      codeBlock: false,
      strike: false,
      link: false,
      horizontalRule: false,
      undoRedo: false,
    }),
    Subscript,
    Superscript,
    TableKit.configure({ table: { resizable: false } }),
    Image.configure({ inline: true }),
    Formula,
    MarkedWord,
    Sound,
  ],
  editorProps: {
    attributes: {
      role: 'textbox',
      'aria-multiline': 'true',
      'aria-label': props.label,
      class: 'text',
      ...(props.lang ? { lang: props.lang } : {}),
    },
  },
  onUpdate: ({ editor }) => {
    html.value = editor.isEmpty ? '' : unwrapped(editor.getHTML())
  },
  onFocus: () => {
    writing.value = true
  },
})
watch(html, (now) => {
  const e = editor.value
  if (e && now !== (e.isEmpty ? '' : unwrapped(e.getHTML()))) e.commands.setContent(now, { emitUpdate: false })
})

const image = computed(() =>
  editor.value?.isActive('image') ? (editor.value.getAttributes('image') as { alt: string | null }) : undefined,
)
/** The picture stays selected, so that its words can be typed on. */
function setAlt(alt: string) {
  const e = editor.value!
  const at = e.state.selection.from
  const node = e.state.doc.nodeAt(at)
  if (node?.type.name !== 'image') return
  e.chain()
    .command(({ tr }) => !!tr.setNodeMarkup(at, undefined, { ...node.attrs, alt }))
    .setNodeSelection(at)
    .run()
}

/** Goes on where the cursor stands, at once: the editor's own focus comes a frame later, when somebody quick is already elsewhere. */
function goOn() {
  editor.value!.view.focus()
  return editor.value!.chain().scrollIntoView()
}
/** Marks the word that is selected as one to be explained; on one that is, takes that back. */
function explain() {
  const e = editor.value!
  if (e.isActive('markedWord')) help!.drop(String(e.getAttributes('markedWord').catalog))
  else if (!e.state.selection.empty) goOn().setMark('markedWord', { catalog: help!.begin() }).run()
  else problem.value = 'Select a word first, then press Word help.'
}
const act = (what: string) => {
  problem.value = ''
  const run = goOn()
  const does: Record<string, () => unknown> = {
    bold: () => run.toggleBold().run(),
    italic: () => run.toggleItalic().run(),
    underline: () => run.toggleUnderline().run(),
    subscript: () => run.toggleSubscript().run(),
    superscript: () => run.toggleSuperscript().run(),
    bulletList: () => run.toggleBulletList().run(),
    orderedList: () => run.toggleOrderedList().run(),
    table: () => run.insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
    formula: () =>
      (formula.value = editor.value!.isActive('formula') ? texOf(String(editor.value!.getAttributes('formula').mathml)) : ''),
    picture: () => pick('image/*'),
    sound: () => pick('audio/*'),
    shelf: () => (picking.value = true),
    markedWord: () => explain(),
  }
  does[what]!()
}
const tools: [what: string, name: string, icon: Component][] = [
  ['bold', 'Bold', IconBold],
  ['italic', 'Italic', IconItalic],
  ['underline', 'Underlined', IconUnderline],
  ['subscript', 'Subscript', IconSubscript],
  ['superscript', 'Superscript', IconSuperscript],
  ['bulletList', 'List', IconList],
  ['orderedList', 'Numbered list', IconListNumbers],
  ['table', 'Table', IconTable],
  ['formula', 'Formula', IconMath],
  ['picture', 'Picture', IconPhoto],
  ['sound', 'Sound', IconVolume],
  ['shelf', 'From the media shelf', IconLibraryPhoto],
  ['markedWord', 'Word help', IconVocabulary],
]
const leftOut = computed(() => [
  ...(props.small ? ['bulletList', 'orderedList', 'table'] : []),
  ...(help && !props.plain ? [] : ['markedWord']),
])
const offered = computed(() => tools.filter(([what]) => !leftOut.value.includes(what)))
const tableTools: [name: string, run: () => void][] = [
  ['row below', () => goOn().addRowAfter().run()],
  ['column after', () => goOn().addColumnAfter().run()],
  ['drop row', () => goOn().deleteRow().run()],
  ['drop column', () => goOn().deleteColumn().run()],
  ['drop table', () => goOn().deleteTable().run()],
]

function pick(accept: string) {
  file.value!.accept = accept
  file.value!.click()
}
async function upload(e: Event) {
  const input = e.target as HTMLInputElement
  const chosen = input.files?.[0]
  input.value = ''
  if (!chosen) return
  problem.value = ''
  sending.value = true
  try {
    show(await keepMedia(chosen))
  } catch (error) {
    problem.value = (error as Error).message
  } finally {
    sending.value = false
  }
}
function show(kept: Schemas['Media']) {
  const run = goOn()
  if (kept.type.startsWith('audio/')) run.insertContent({ type: 'sound', attrs: { src: kept.source } }).run()
  else run.setImage({ src: kept.source, alt: kept.alt, width: kept.width, height: kept.height }).run()
}
function fromShelf(f: Schemas['Shelved']) {
  picking.value = false
  show({ ...f, source: `/media/${f.hash}` })
}
function putFormula(mathml: string) {
  formula.value = undefined
  goOn().insertContent({ type: 'formula', attrs: { mathml } }).run()
}
const { pressed } = useMousePressed()
/** The tools go once a press has ended, so that what is pressed does not move away under the pointer. */
function close() {
  if (!pressed.value) {
    writing.value = false
    return
  }
  const stop = watch(pressed, () => {
    stop()
    setTimeout(() => {
      if (!editor.value?.isFocused) writing.value = false
    }, 50)
  })
}
function leave(e: FocusEvent) {
  if (
    !(e.currentTarget as HTMLElement).contains(e.relatedTarget as globalThis.Node | null) &&
    formula.value === undefined &&
    !picking.value
  )
    close()
}
</script>

<template>
  <div class="rich" :class="{ small, open: writing }" @focusout="leave">
    <div v-if="writing && editor" class="tools" role="toolbar" :aria-label="`Format ${label}`" :aria-controls="id">
      <button
        v-for="[what, name, icon] in offered"
        :key="what"
        type="button"
        :aria-label="name"
        :title="name"
        :aria-pressed="editor.isActive(what)"
        @mousedown.prevent
        @click="act(what)"
      >
        <component :is="icon" :size="16" stroke="1.7" aria-hidden="true" />
      </button>
      <span v-if="sending" class="soft">putting it on the shelf…</span>
    </div>
    <div v-if="writing && editor?.isActive('table')" class="tools words">
      <button v-for="[name, run] in tableTools" :key="name" type="button" @mousedown.prevent @click="run">{{ name }}</button>
    </div>
    <label v-if="writing && image" class="alt">
      Alternative text
      <input
        :value="image.alt ?? ''"
        maxlength="500"
        placeholder="What the picture shows"
        @input="setAlt(($event.target as HTMLInputElement).value)"
      />
    </label>
    <EditorContent :id="id" :editor="editor" class="sheet" />
    <FormulaPanel v-if="formula !== undefined" :tex="formula" @done="putFormula" @close="formula = undefined" />
    <ShelfPicker v-if="picking" @choose="fromShelf" @close="picking = false" />
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <input ref="file" type="file" class="out-of-sight" tabindex="-1" aria-hidden="true" @change="upload" />
  </div>
</template>

<style scoped>
.rich {
  border: 1px solid var(--rule-strong);
  background: var(--paper);
}
.rich.open {
  border-color: var(--pine);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px;
  padding: 3px;
  border-bottom: 1px solid var(--rule);
  background: var(--tint);
}
.tools button {
  display: grid;
  place-items: center;
  min-width: 26px;
  height: 26px;
  padding: 0 4px;
  font: inherit;
  font-size: 12px;
  border: 1px solid transparent;
  background: none;
  color: inherit;
  cursor: pointer;
}
.tools button:hover {
  border-color: var(--rule-strong);
}
.tools button[aria-pressed='true'] {
  background: var(--pine);
  color: var(--on-pine);
}
.alt {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 4px 8px;
  border-bottom: 1px solid var(--rule);
}
.alt input {
  flex: 1;
  font: inherit;
  color: inherit;
  padding: 3px 6px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
}
.sheet :deep(.text) {
  min-height: 74px;
  padding: 8px 10px;
  outline: none;
  white-space: pre-wrap;
  font-family: var(--reading);
}
.small .sheet :deep(.text) {
  min-height: 34px;
  padding: 6px 10px;
}
.sheet :deep([data-catalog-idref]) {
  border-bottom: 2px dotted var(--pine);
}
.sheet :deep(p) {
  margin: 0 0 6px;
}
.sheet :deep(p:last-child) {
  margin-bottom: 0;
}
.sheet :deep(img) {
  max-width: 100%;
  height: auto;
}
.sheet :deep(.ProseMirror-selectednode) {
  outline: 2px solid var(--pine);
}
.sheet :deep(table) {
  border-collapse: collapse;
}
.sheet :deep(td),
.sheet :deep(th) {
  border: 1px solid var(--rule-strong);
  padding: 3px 8px;
  min-width: 40px;
  text-align: left;
}
.sheet :deep(.ProseMirror-gapcursor),
.sheet :deep(.ProseMirror-separator) {
  display: none;
}
</style>
