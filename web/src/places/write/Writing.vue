<script setup lang="ts">
import { IconArrowBackUp, IconArrowForwardUp } from '@tabler/icons-vue'
import { useDebounceFn, useEventListener } from '@vueuse/core'
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import { computed, ref, watch } from 'vue'
import ItemBody from '@/item/ItemBody.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import Trouble from '@/parts/Trouble.vue'
import { useScreenKeys } from '@/parts/keys'
import { useCrumb } from '@/parts/crumb'
import { api, call, type Schemas } from '@/contract/client'
import { kindName } from '@/contract/format'
import { keyAsResponse, partsOf, setKey } from './document'
import { placeName } from './places'
import DraftTwins from '@/places/bank/twins/DraftTwins.vue'
import FeedbackFields from './FeedbackFields.vue'
import MetaFields from './MetaFields.vue'
import PartFields from './PartFields.vue'
import RichText from './RichText.vue'
import SeveralParts from './SeveralParts.vue'
import { useDraft } from './useDraft'
import { useKeeping } from './useKeeping'
import VariantFields from './VariantFields.vue'
import { beginHelp, dropHelp, helpedWords, provideWordHelp } from './wordHelp'
import WordHelpFields from './WordHelpFields.vue'

/** An item being written, beside the item as a student will see it; answering it there sets its key. */
const props = defineProps<{ draft: Schemas['ItemDraft'] }>()
const { typed, seen, error, clash, state, keep, takeTheirs, keepMine, forget, history } = useDraft(props.draft)
const { twins, refused, busy, keepInBank, joinTo, drop } = useKeeping(props.draft, { seen, keep, forget })
const doc = computed(() => typed.value.document)
const parts = computed(() => partsOf(doc.value))
const isNew = !props.draft.itemId
provideWordHelp({ begin: () => beginHelp(doc.value), drop: (catalog) => dropHelp(doc.value, catalog) })
useCrumb(() => (isNew ? 'A new item' : typed.value.meta.identifier))

const stem = computed({
  get: () => doc.value.body[0]?.html ?? '',
  set: (v: string) => {
    if (doc.value.body[0]) doc.value.body[0].html = v
  },
})
const directions = computed({
  get: () => doc.value.directions ?? '',
  set: (v: string) => (doc.value.directions = v || undefined),
})

const ways = [
  { value: 'key', label: 'Set the key' },
  { value: 'try', label: 'Try it' },
]
const way = ref<'key' | 'try'>('key')
const tried = ref<Record<string, string[]>>({})
const earned = ref<{ credit: number; outcome: string; why: string }>()
const response = computed({
  get: () => (way.value === 'key' ? keyAsResponse(doc.value) : tried.value),
  set: (r) => {
    if (way.value === 'key') setKey(doc.value, r)
    else {
      tried.value = r
      void score()
    }
  },
})
const score = useDebounceFn(async () => {
  try {
    earned.value = await call(
      api.POST('/item-drafts/{id}/credit', { params: { path: { id: props.draft.id } }, body: { response: tried.value } }),
    )
  } catch (e) {
    earned.value = { credit: 0, outcome: '', why: (e as Error).message }
  }
}, 250)
watch(way, () => {
  tried.value = {}
  earned.value = undefined
})
const byAnswering = computed(() => parts.value.some((p) => !['short-written', 'extended-written', 'examiner'].includes(p.kind)))
/** Areas of the key lie over the picture while it is set. */
const shownKeys = computed(() => {
  if (way.value !== 'key') return undefined
  const spots = parts.value.filter((p) => p.kind === 'spot' && !p.place.choices?.length)
  return spots.length
    ? Object.fromEntries(spots.map((p) => [p.place.response, { correct: [], areas: p.key.areas ?? [] }]))
    : undefined
})

/** Goes to where a problem is mended: the field of its place, or of what is around it. */
function goTo(place: string) {
  for (let at = place; at; at = at.replace(/(\.?[^.[]+|\[\d+\])$/, '')) {
    const el = document.getElementById(at)
    if (!el) continue
    el.scrollIntoView({ block: 'center' })
    el.querySelector<HTMLElement>('[role=textbox], input, select, textarea, button')?.focus()
    return
  }
  document.getElementById('body')?.querySelector<HTMLElement>('[role=textbox]')?.focus()
}

useEventListener(
  'keydown',
  (e) => {
    if (!(e.ctrlKey || e.metaKey) || e.altKey) return
    const key = e.key.toLowerCase()
    if (key === 'z' && !e.shiftKey && history.canUndo.value) history.undo()
    else if (((key === 'z' && e.shiftKey) || key === 'y') && history.canRedo.value) history.redo()
    else if (key === 's') void keep()
    else return
    e.preventDefault()
    e.stopPropagation()
  },
  { capture: true },
)
useScreenKeys([
  ['Ctrl Z', 'take back what was typed last'],
  ['Ctrl Shift Z', 'do it again'],
])
</script>

<template>
  <div class="writing">
    <DraftTwins
      v-if="twins.length"
      :draft="seen"
      :twins="twins"
      @keep="keepInBank(true)"
      @join="joinTo"
      @drop="drop"
      @close="twins = []"
    />
    <header class="bar">
      <h1>
        {{
          draft.assessmentId
            ? `An own copy of ${typed.meta.identifier}`
            : isNew
              ? 'A new item'
              : `A version of ${typed.meta.identifier}`
        }}
        <span class="soft">{{ kindName(doc.kind) }}</span>
      </h1>
      <span class="state soft" role="status">{{ state }}</span>
      <Button
        severity="secondary"
        text
        aria-label="Undo"
        title="Undo (Ctrl Z)"
        :disabled="!history.canUndo.value"
        @click="history.undo()"
        ><IconArrowBackUp :size="18"
      /></Button>
      <Button
        severity="secondary"
        text
        aria-label="Redo"
        title="Redo (Ctrl Shift Z)"
        :disabled="!history.canRedo.value"
        @click="history.redo()"
        ><IconArrowForwardUp :size="18"
      /></Button>
      <Button label="Delete draft" severity="secondary" text @click="drop" />
      <Button
        :label="draft.assessmentId ? 'Use on this line' : isNew ? 'Add to the bank' : 'Save as a new version'"
        :disabled="!!seen.problems.length"
        :loading="busy"
        @click="keepInBank()"
      />
    </header>

    <section class="left" aria-label="Fields">
      <div v-if="clash" class="clash" role="alert">
        <p><strong>Another tab has changed this draft.</strong> What you typed here is not saved yet.</p>
        <Button label="Use the other version" size="small" severity="secondary" outlined @click="takeTheirs" />
        <Button label="Keep this version" size="small" severity="secondary" outlined @click="keepMine" />
      </div>
      <Trouble v-else :error="error ?? refused" />
      <div id="body">
        <h2>Question</h2>
        <RichText v-model="stem" label="Question" />
      </div>
      <div v-if="doc.kind === 'examiner'">
        <h2>Directions to the adult</h2>
        <RichText v-model="directions" label="Directions to the adult" small />
      </div>
      <template v-if="doc.kind === 'parts'">
        <SeveralParts :document="doc" :credits="seen.credits" />
        <label class="short"
          >Credit of the whole
          <select v-model="doc.credit">
            <option value="per-part">sum of the parts</option>
            <option value="all-or-nothing">all or nothing</option>
          </select></label
        >
      </template>
      <PartFields
        v-for="p in doc.kind === 'parts' ? [] : parts"
        :key="p.place.response"
        :document="doc"
        :part="p"
        :credits="seen.credits[p.kind] ?? []"
      />
      <details open>
        <summary>Alignment and keywords</summary>
        <MetaFields :meta="typed.meta" :fixed="!isNew || !!draft.assessmentId" :on-line="!!draft.assessmentId" />
      </details>
      <details v-if="byAnswering">
        <summary>Feedback</summary>
        <FeedbackFields :document="doc" />
      </details>
      <details id="cards" :open="helpedWords(doc).length > 0">
        <summary>Word help</summary>
        <WordHelpFields :document="doc" :language="typed.meta.language || 'en'" />
      </details>
      <details :open="!!doc.variants?.length">
        <summary>In Spanish</summary>
        <VariantFields id="variants" :document="doc" language="es" />
      </details>
      <details>
        <summary>Notes to other authors</summary>
        <div class="fields">
          <textarea v-model.lazy="doc.notes" rows="3" maxlength="5000" aria-label="Notes to other authors" />
        </div>
      </details>
    </section>

    <section class="right" aria-label="As a student sees it">
      <div class="row top">
        <h2>As a student sees it</h2>
        <SelectButton
          v-if="byAnswering"
          v-model="way"
          :options="ways"
          option-label="label"
          option-value="value"
          :allow-empty="false"
          size="small"
          aria-label="What answering does"
        />
      </div>
      <p v-if="byAnswering && way === 'key'" class="soft hint">Answer it as it should be answered: that is the key.</p>
      <div class="card">
        <details v-if="seen.passage">
          <summary>{{ seen.passage.title }}</summary>
          <SafeHtml :html="seen.passage.body" :lang="seen.passage.language" />
        </details>
        <ItemBody v-model="response" :shown="seen.shown" name="draft" :keys="shownKeys" />
      </div>
      <p v-if="way === 'key' && !seen.problems.length">
        <strong>Key {{ seen.key }}</strong>
      </p>
      <p v-if="way === 'try' && earned" aria-live="polite">
        <strong v-if="earned.outcome">{{ earned.credit }} of a point.</strong> <span class="soft">{{ earned.why }}</span>
      </p>
      <table v-if="seen.examples.length && !seen.problems.length" class="ledger" aria-label="What partly right answers earn">
        <thead>
          <tr>
            <th>An answer that is right in part</th>
            <th class="num">of a point</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="e in seen.examples" :key="e.words">
            <td>{{ e.words }}</td>
            <td class="num">{{ e.credit }}</td>
          </tr>
        </tbody>
      </table>
      <div aria-live="polite" class="problems">
        <template v-if="seen.problems.length">
          <h2>{{ seen.problems.length === 1 ? '1 thing is' : `${seen.problems.length} things are` }} missing or wrong</h2>
          <ul>
            <li v-for="(p, i) in seen.problems" :key="i">
              <button type="button" class="link-button" @click="goTo(p.place)">{{ placeName(p.place) }}</button> {{ p.reason }}
            </li>
          </ul>
        </template>
        <p v-else class="soft">Nothing is missing: it can go into the bank.</p>
        <template v-if="seen.cautions.length">
          <h2 class="resin">To look at</h2>
          <ul>
            <li v-for="(p, i) in seen.cautions" :key="i">
              <button type="button" class="link-button" @click="goTo(p.place)">{{ placeName(p.place) }}</button> {{ p.reason }}
            </li>
          </ul>
        </template>
      </div>
    </section>
  </div>
</template>

<style scoped>
.writing {
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr) minmax(0, 1fr);
  height: 100%;
}
.bar {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 8px 18px;
  border-bottom: 1.5px solid var(--ink);
}
h1 {
  font: 650 1.25rem var(--serif);
  margin: 0;
  flex: 1;
}
h1 .soft {
  font: 400 13.5px var(--sans);
  margin-left: 6px;
}
h2 {
  font-size: 13.5px;
  font-weight: 650;
  margin: 0 0 6px;
}
.left,
.right {
  overflow: auto;
  padding: 14px 18px 40px;
}
.left {
  display: grid;
  align-content: start;
  gap: 16px;
  border-right: 3px double var(--rule-strong);
}
details {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
summary {
  font-weight: 650;
  cursor: pointer;
  margin-bottom: 6px;
}
.top {
  justify-content: space-between;
}
.hint {
  margin: 0 0 8px;
}
.card {
  border: 1px solid var(--rule);
  padding: 16px;
  margin-bottom: 10px;
  font-family: var(--reading);
  font-size: 16px;
}
.problems {
  margin-top: 14px;
}
.problems ul {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
}
.problems li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.clash {
  border-left: 3px solid var(--resin);
  background: var(--resin-tint);
  padding: 8px 12px;
}
.clash :deep(button) {
  margin-right: 8px;
}
.left :deep(.fields) {
  display: grid;
  gap: 10px;
}
.left :deep(label),
.left :deep(.name) {
  display: block;
  font-size: 12.5px;
  font-weight: 600;
}
.left :deep(label input:not([type='checkbox'])),
.left :deep(label select),
.left :deep(textarea),
.left :deep(.level input),
.left :deep(.area select) {
  font: 400 13.5px var(--sans);
  color: inherit;
  background-color: var(--paper);
  border: 1px solid var(--rule-strong);
  padding: 5px 8px;
  min-height: 32px;
  max-width: 100%;
}
.left :deep(label select),
.left :deep(.area select) {
  padding-right: 26px; /* the mark of a list stands there */
}
.left :deep(label:not(.short):not(.check) > input),
.left :deep(label:not(.short) > select),
.left :deep(textarea) {
  width: 100%;
  margin-top: 3px;
}
.left :deep(label.short) {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  width: fit-content;
}
.left :deep(label.short input) {
  width: 90px;
}
.left :deep(label.check) {
  display: flex;
  gap: 7px;
  align-items: center;
  font-weight: 400;
  font-size: 13.5px;
}
.left :deep(label.check input) {
  width: 16px;
  height: 16px;
  accent-color: var(--pine);
}
.left :deep(fieldset) {
  border: 0;
  border-top: 1px solid var(--rule);
  padding: 8px 0 0;
  margin: 0;
}
.left :deep(legend) {
  float: left;
  width: 100%;
  font-size: 12.5px;
  font-weight: 650;
  margin-bottom: 4px;
}
.left :deep(fieldset > *) {
  clear: both;
}
.left :deep(fieldset.line) {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
@media (max-width: 900px) {
  .writing {
    display: block;
    height: auto;
  }
  .bar {
    flex-wrap: wrap;
  }
}
</style>
