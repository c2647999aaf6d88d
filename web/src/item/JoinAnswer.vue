<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { joined, left, parted, plainWords } from './pairs'
import { t } from '@/words'

/**
 * Choices to be joined to targets or sorted into groups: dragged there, or picked
 * and then put, which works by touch and by keys too.
 */
defineOptions({ inheritAttrs: false })
const pairs = defineModel<string[]>({ required: true })
const props = defineProps<{
  choices: Schemas['Choice'][]
  targets: Schemas['Choice'][]
  /** Choices are joined to each other; they are the targets too. */
  among?: boolean
  readOnly?: boolean
  correct?: string[]
  describedBy: string
}>()

const picked = ref<Schemas['Choice']>()
const said = ref('')
const shown = computed(() => props.correct ?? pairs.value)
const partnered = (c: Schemas['Choice']) => !!props.among && !!c.most && shown.value.some((p) => p.endsWith(` ${c.id}`))
const pool = computed(() => props.choices.filter((c) => left(c, shown.value, 0) > 0 && !partnered(c)))
const inside = (target: Schemas['Choice']) =>
  shown.value.filter((p) => p.split(' ')[1] === target.id).flatMap((p) => props.choices.filter((c) => c.id === p.split(' ')[0]))
/** Where to put things. Joined among each other, one that has a partner is gone from here. */
const places = computed(() =>
  props.among
    ? props.choices.filter((c) => inside(c).length || !c.most || !shown.value.some((p) => p.startsWith(`${c.id} `)))
    : props.targets,
)
const words = (c: Schemas['Choice']) => plainWords(c.html)

function pick(c: Schemas['Choice']) {
  if (props.readOnly) return
  picked.value = picked.value?.id === c.id ? undefined : c
  said.value = picked.value ? t('item.picked', { what: words(c) }) : ''
}
/** The button that was pressed is gone: whoever works by keys goes on with the next thing to put, or the one given. */
const group = useTemplateRef<HTMLElement>('group')
async function goOn(first?: Schemas['Choice']) {
  await nextTick()
  if (document.activeElement !== document.body) return
  const chips = [...(group.value?.querySelectorAll<HTMLElement>('.pool .chip') ?? [])]
  const chip = chips.find((b) => b.dataset.choice === first?.id) ?? chips[0]
  ;(chip ?? group.value?.querySelector<HTMLElement>('.placed'))?.focus()
}
function put(target: Schemas['Choice']) {
  if (!picked.value || props.readOnly || (props.among && picked.value.id === target.id)) return
  pairs.value = joined(pairs.value, picked.value, target)
  said.value = t('item.put', { what: words(picked.value), where: words(target) })
  picked.value = undefined
  void goOn()
}
function takeBack(c: Schemas['Choice'], target: Schemas['Choice']) {
  pairs.value = parted(pairs.value, c.id, target.id)
  said.value = t('item.takenBack', { what: words(c) })
  void goOn(c)
}
</script>

<template>
  <div ref="group" role="group" :aria-labelledby="describedBy" class="join" @keydown.esc="picked = undefined">
    <p v-if="!readOnly && pool.length" class="hint">{{ t('item.howToPut') }}</p>
    <ul class="pool" :aria-label="t('item.toPut')">
      <li v-for="c in pool" :key="c.id">
        <button
          type="button"
          class="chip"
          :class="{ picked: picked?.id === c.id }"
          :data-choice="c.id"
          :aria-pressed="picked?.id === c.id"
          :disabled="readOnly"
          :draggable="!readOnly"
          :aria-label="c.html ? undefined : t('item.empty')"
          @click="pick(c)"
          @dragstart="picked = c"
        >
          <SafeHtml :html="c.html" tag="span" />
        </button>
      </li>
      <li v-if="!pool.length" class="soft">{{ t('item.allPut') }}</li>
    </ul>
    <ul class="targets">
      <li
        v-for="target in places"
        :key="target.id"
        class="target"
        :class="{ ready: picked }"
        @dragover.prevent
        @drop.prevent="put(target)"
        @click.self="put(target)"
      >
        <SafeHtml :html="target.html" class="name" />
        <ul :aria-label="words(target)">
          <li v-for="c in inside(target)" :key="c.id">
            <button
              type="button"
              class="chip placed"
              :disabled="readOnly"
              :draggable="!readOnly"
              :aria-label="t('item.takeBack', { what: words(c), where: words(target) })"
              @click="takeBack(c, target)"
              @dragstart="picked = c"
            >
              <SafeHtml :html="c.html" tag="span" />
            </button>
          </li>
        </ul>
        <button
          v-if="picked && !(among && picked.id === target.id)"
          type="button"
          class="put"
          :aria-label="t('item.putNamed', { what: words(picked), where: words(target) })"
          @click="put(target)"
        >
          {{ t('item.putHere') }}
        </button>
      </li>
    </ul>
    <p class="out-of-sight" role="status">{{ said }}</p>
    <p v-if="correct" class="is-key">{{ t('item.key') }}</p>
  </div>
</template>

<style scoped>
.join {
  display: grid;
  gap: 14px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.pool,
.target ul {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.pool {
  min-height: 60px;
  padding: 8px;
  border: 1px dashed var(--rule-strong);
}
.targets {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 10px;
}
.target {
  display: grid;
  align-content: start;
  gap: 8px;
  min-height: 110px;
  padding: 10px;
  border: 1px solid var(--rule-strong);
  border-top: 3px double var(--rule-strong);
}
.target.ready {
  background: var(--tint);
}
.name {
  font-weight: 700;
}
.name :deep(p) {
  margin: 0;
}
.chip {
  font: inherit;
  color: inherit;
  min-height: 44px;
  padding: 6px 14px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  cursor: grab;
  text-align: left;
}
.chip:disabled {
  cursor: default;
  opacity: 1;
}
.chip:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
.picked {
  background: var(--pine);
  color: var(--on-pine);
}
.placed {
  border-color: var(--pine);
}
.put {
  justify-self: start;
  font: inherit;
  font-weight: 600;
  min-height: 44px;
  padding: 0 14px;
  border: 1px solid var(--pine);
  background: var(--paper);
  color: var(--pine);
  cursor: pointer;
}
.put:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
</style>
