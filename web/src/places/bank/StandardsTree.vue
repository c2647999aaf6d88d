<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { IconChevronDown, IconChevronRight } from '@tabler/icons-vue'
import { computed, ref, watch } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import * as bankQueries from '@/queries/bank'
import { searchParams, type BankQuery } from './useBankQuery'

/**
 * Frameworks and their standards with what the search finds at and below each;
 * choosing one narrows the search to it and everything below.
 */
const props = defineProps<{ chosen: number | undefined; search?: BankQuery }>()
const emit = defineEmits<{ choose: [id: number | undefined] }>()

const frameworks = useQuery(bankQueries.frameworks)
// What is chosen here, and the order, change no count.
const counted = computed(() =>
  props.search
    ? { ...searchParams(props.search), standard: undefined, unaligned: undefined, unlinked: undefined, sort: undefined }
    : {},
)
const trees = useQuery({
  queryKey: ['standards', computed(() => frameworks.data.value?.map((f) => f.id)), counted],
  queryFn: async () =>
    Promise.all(
      (frameworks.data.value ?? []).map(async (framework) => ({
        framework,
        standards: await call(
          api.GET('/frameworks/{id}/standards', { params: { path: { id: framework.id }, query: counted.value } }),
        ),
      })),
    ),
  enabled: computed(() => !!frameworks.data.value),
  staleTime: 60_000,
  placeholderData: keepPreviousData,
})

interface Node {
  standard: Schemas['Standard']
  level: number
  hasChildren: boolean
}

const open = ref(new Set<number>())
const parents = computed(() => {
  const out = new Map<number, number>()
  for (const t of trees.data.value ?? []) for (const s of t.standards) out.set(s.id, s.parentId)
  return out
})
watch(
  [() => props.chosen, parents],
  () => {
    for (let at = parents.value.get(props.chosen ?? 0); at; at = parents.value.get(at)) open.value.add(at)
  },
  { immediate: true },
)

function rows(standards: Schemas['Standard'][]): Node[] {
  const level = new Map<number, number>()
  const withChildren = new Set(standards.map((s) => s.parentId))
  const shown = new Set<number>([0])
  const out: Node[] = []
  for (const standard of standards) {
    level.set(standard.id, (level.get(standard.parentId) ?? 0) + 1)
    if (!shown.has(standard.parentId)) continue
    out.push({ standard, level: level.get(standard.id)!, hasChildren: withChildren.has(standard.id) })
    if (open.value.has(standard.id)) shown.add(standard.id)
  }
  return out
}

function toggle(id: number) {
  if (!open.value.delete(id)) open.value.add(id)
}

function onKey(e: KeyboardEvent, n: Node) {
  const items = [...(e.currentTarget as HTMLElement).closest('.tree')!.querySelectorAll<HTMLElement>('[role=treeitem]')]
  const at = items.indexOf(e.currentTarget as HTMLElement)
  if (e.key === 'ArrowDown') items[at + 1]?.focus()
  else if (e.key === 'ArrowUp') items[at - 1]?.focus()
  else if (e.key === 'ArrowRight' && n.hasChildren) open.value.add(n.standard.id)
  else if (e.key === 'ArrowLeft') open.value.delete(n.standard.id)
  else if (e.key === 'Enter' || e.key === ' ') choose(n)
  else return
  e.preventDefault()
}

function choose(n: Node) {
  emit('choose', props.chosen === n.standard.id ? undefined : n.standard.id)
  if (n.hasChildren) open.value.add(n.standard.id)
}
</script>

<template>
  <div class="tree" role="tree" aria-label="Standards">
    <template v-for="t in trees.data.value" :key="t.framework.id">
      <p v-if="trees.data.value!.length > 1" class="framework" role="presentation" :title="t.framework.title">
        {{ t.framework.title }}
      </p>
      <div
        v-for="(n, i) in rows(t.standards)"
        :key="n.standard.id"
        role="treeitem"
        :tabindex="n.standard.id === chosen || (!chosen && i === 0) ? 0 : -1"
        :aria-level="n.level"
        :aria-expanded="n.hasChildren ? open.has(n.standard.id) : undefined"
        :aria-selected="n.standard.id === chosen"
        class="node"
        :style="{ paddingLeft: `${(n.level - 1) * 13}px` }"
        :title="n.standard.text"
        @click="choose(n)"
        @keydown="onKey($event, n)"
      >
        <span class="toggle" aria-hidden="true" @click.stop="n.hasChildren && toggle(n.standard.id)">
          <component :is="open.has(n.standard.id) ? IconChevronDown : IconChevronRight" v-if="n.hasChildren" :size="14" />
        </span>
        <span v-if="n.level > 1" class="mono">{{ n.standard.code.slice(n.standard.code.indexOf('.') + 1) }}</span>
        <span class="text">{{ n.standard.text }}</span>
        <span class="count">{{ n.standard.items }}</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
.node {
  display: flex;
  align-items: center;
  gap: 5px;
  min-height: 27px;
  padding-right: 6px;
  border-bottom: 1px solid transparent;
  cursor: pointer;
}
.node:hover {
  background: var(--tint);
}
.node[aria-selected='true'] {
  background: var(--tint-strong);
  font-weight: 650;
}
.framework {
  margin: 8px 8px 2px;
  font-size: 12px;
  font-weight: 650;
  color: var(--ink-soft);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.toggle {
  width: 18px;
  height: 24px;
  display: grid;
  place-items: center;
  flex-shrink: 0;
}
.mono {
  flex-shrink: 0;
}
.text {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.count {
  color: var(--ink-soft);
  font-size: 12px;
}
</style>
