<script setup lang="ts">
import { IconArrowDown, IconArrowUp, IconGripVertical } from '@tabler/icons-vue'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useDraggable } from 'vue-draggable-plus'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { plainWords } from './pairs'
import { t } from '@/words'

/** Things to put in order, by dragging or with the arrows beside each. Nothing is answered until something was moved or the order confirmed. */
defineOptions({ inheritAttrs: false })
const given = defineModel<string[]>({ required: true })
const props = defineProps<{ choices: Schemas['Choice'][]; readOnly?: boolean; correct?: string[]; describedBy: string }>()

const ids = computed(() => {
  const known = props.correct ?? given.value
  return known.length === props.choices.length ? known : props.choices.map((c) => c.id)
})
const rows = ref<Schemas['Choice'][]>([])
watch(ids, (now) => (rows.value = now.map((id) => props.choices.find((c) => c.id === id)!)), { immediate: true })

const list = useTemplateRef<HTMLElement>('list')
const said = ref('')
useDraggable(list, rows, {
  handle: '.grip',
  animation: 100,
  disabled: props.readOnly ?? false,
  onEnd: ({ newIndex }) => tell(newIndex ?? 0),
})

function tell(at: number) {
  given.value = rows.value.map((c) => c.id)
  said.value = t('item.placeNow', { n: at + 1, of: rows.value.length })
}
async function move(from: number, to: number) {
  const [row] = rows.value.splice(from, 1)
  if (!row) return
  rows.value.splice(to, 0, row)
  tell(to)
  await nextTick()
  const buttons = list.value?.children[to]?.querySelectorAll<HTMLButtonElement>('button')
  const same = buttons?.[to < from ? 0 : 1]
  ;(same?.disabled ? buttons?.[to < from ? 1 : 0] : same)?.focus()
}
</script>

<template>
  <div role="group" :aria-labelledby="describedBy">
    <ol ref="list">
      <li v-for="(c, i) in rows" :key="c.id">
        <span class="place">{{ i + 1 }}</span>
        <span v-if="!readOnly" class="grip" aria-hidden="true"><IconGripVertical :size="18" /></span>
        <SafeHtml :html="c.html" tag="span" class="text" />
        <span v-if="!readOnly" class="arrows">
          <button
            type="button"
            class="arrow"
            :disabled="i === 0"
            :aria-label="t('item.moveUp', { what: plainWords(c.html) })"
            @click="move(i, i - 1)"
          >
            <IconArrowUp :size="18" />
          </button>
          <button
            type="button"
            class="arrow"
            :disabled="i === rows.length - 1"
            :aria-label="t('item.moveDown', { what: plainWords(c.html) })"
            @click="move(i, i + 1)"
          >
            <IconArrowDown :size="18" />
          </button>
        </span>
      </li>
    </ol>
    <p class="out-of-sight" role="status">{{ said }}</p>
    <p v-if="correct" class="is-key">{{ t('item.key') }}</p>
    <p v-else-if="!readOnly && !given.length" class="hint">
      {{ t('item.order') }}
      <button type="button" class="link-button" @click="given = rows.map((c) => c.id)">{{ t('item.inOrder') }}</button>
    </p>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
li {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 50px;
  padding: 2px 4px 2px 0;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
}
.place {
  width: 44px;
  align-self: stretch;
  display: grid;
  place-items: center;
  font-weight: 700;
  border-right: 1px solid var(--rule);
}
.grip {
  cursor: grab;
  color: var(--ink-soft);
  padding: 10px 2px;
}
.text {
  flex: 1;
}
.text :deep(p) {
  margin: 0;
}
.arrows {
  display: flex;
  gap: 4px;
}
.arrow {
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  color: var(--ink);
  cursor: pointer;
}
.arrow:hover:enabled {
  background: var(--tint);
}
.arrow:disabled {
  color: var(--rule-strong);
  border-color: var(--rule);
  cursor: default;
}
.arrow:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
</style>
