<script setup lang="ts">
import { keepPreviousData, useInfiniteQuery } from '@tanstack/vue-query'
import { useIntersectionObserver, watchDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import DifficultyBar from '@/parts/DifficultyBar.vue'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { isTyping, useScreenKeys } from '@/parts/keys'
import { api, call } from '@/contract/client'
import { capital, gradeName, kindName, languageName, plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import ItemPreview from './ItemPreview.vue'
import BeginDialog from '@/places/write/BeginDialog.vue'
import StandardsTree from './StandardsTree.vue'
import TrayPanel from './TrayPanel.vue'
import { useBankQuery, type FacetName, type Sort } from './useBankQuery'
import { useTray } from './useTray'

const { may } = useSession()
const { query, change, toggle } = useBankQuery()
const tray = useTray()
const chosen = ref<number>()
const trayOpen = ref(false)
const beginning = ref(false)

const words = ref(query.value.words)
watch(
  () => query.value.words,
  (now) => (words.value = now),
)
watchDebounced(words, (now) => now !== query.value.words && change({ words: now }, true), { debounce: 180 })

const search = useInfiniteQuery({
  queryKey: ['items', query],
  initialPageParam: '',
  queryFn: ({ pageParam }) => {
    const { words, standard, sort, facets } = query.value
    return call(
      api.GET('/items', {
        params: {
          query: {
            words: words || undefined,
            standard,
            sort,
            ...facets,
            depth: facets.depth.map(Number),
            cursor: pageParam || undefined,
            limit: 60,
          },
        },
      }),
    )
  },
  getNextPageParam: (last) => last.next || undefined,
  placeholderData: keepPreviousData,
})
const items = computed(() => search.data.value?.pages.flatMap((p) => p.items) ?? [])
const first = computed(() => search.data.value?.pages[0])
watch(items, (now) => {
  if (!now.some((i) => i.id === chosen.value)) chosen.value = now[0]?.id
})

const end = useTemplateRef('end')
useIntersectionObserver(end, ([entry]) => {
  if (entry?.isIntersecting && search.hasNextPage.value && !search.isFetchingNextPage.value) void search.fetchNextPage()
})

const sorts: { value: Sort; label: string }[] = [
  { value: 'newest', label: 'newest first' },
  { value: 'difficulty', label: 'hardest first' },
  { value: 'uses', label: 'most used first' },
]
const valueNames: Partial<Record<string, (v: string) => string>> = {
  kind: kindName,
  grade: (v) => `grade ${gradeName(v)}`,
  depth: (v) => `depth ${v}`,
  language: languageName,
}
const facets = computed(() =>
  (first.value?.facets ?? []).filter((f) => f.values.length > 1 || query.value.facets[f.name as FacetName].length),
)
const narrowed = computed(
  () => !!(query.value.words || query.value.standard || Object.values(query.value.facets).some((f) => f.length)),
)
/** What the search finds, as a package. */
const packageLink = computed(() => {
  const { words, standard, facets } = query.value
  const params = new URLSearchParams()
  if (words) params.set('words', words)
  if (standard) params.set('standard', String(standard))
  for (const [name, values] of Object.entries(facets)) for (const v of values) params.append(name, v)
  return `/api/item-package.zip?${params}`
})
const none = { subject: [], grade: [], kind: [], depth: [], language: [], bank: [] }

function onKey(e: KeyboardEvent) {
  if (isTyping(e) || e.ctrlKey || e.metaKey || !chosen.value) return
  if (e.key === 'p' && may('build')) tray.toggle(chosen.value)
  else return
  e.preventDefault()
}
const router = useRouter()
const refused = ref<Error>()
async function writeVersion(item: number) {
  try {
    const draft = await call(api.POST('/item-drafts', { body: { item } }))
    await router.push(`/bank/write/${draft.id}`)
  } catch (e) {
    refused.value = e as Error
  }
}
function onRowFocus(id: number) {
  chosen.value = id
}
useScreenKeys([
  ['p', 'pick the item into the tray, or put it back'],
  ['↑ ↓', 'through the items; the preview follows'],
])
</script>

<template>
  <div class="bank" @keydown="onKey">
    <aside class="narrow" aria-label="Narrow the search">
      <StandardsTree :chosen="query.standard" @choose="(id) => change({ standard: id })" />
      <fieldset v-for="f in facets" :key="f.name">
        <legend>{{ capital(f.name) }}</legend>
        <label v-for="v in f.values" :key="v.value">
          <input
            type="checkbox"
            :checked="query.facets[f.name as FacetName].includes(v.value)"
            @change="toggle(f.name as FacetName, v.value)"
          />
          <span>{{ valueNames[f.name]?.(v.value) ?? v.value }}</span>
          <span class="soft">{{ v.count }}</span>
        </label>
      </fieldset>
    </aside>

    <section class="list" aria-label="Items">
      <div class="bar">
        <InputText v-model="words" data-search placeholder="Words in stem and choices" aria-label="Words in stem and choices" />
        <Select
          :model-value="query.sort"
          :options="sorts"
          option-label="label"
          option-value="value"
          aria-label="Order"
          @update:model-value="(s: Sort) => change({ sort: s })"
        />
        <Button
          v-if="may('build')"
          :label="`Tray, ${tray.items.value.length}`"
          severity="secondary"
          outlined
          @click="trayOpen = true"
        />
        <Button v-if="may('build')" label="Write an item" @click="beginning = true" />
      </div>
      <p class="count" aria-live="polite">
        {{ plural(first?.total ?? 0, 'item') }}
        <button
          v-if="narrowed"
          type="button"
          class="link-button"
          @click="change({ words: '', standard: undefined, facets: none })"
        >
          show all
        </button>
        <a v-if="may('build') && first?.total" :href="packageLink" download="items.zip" class="out">bring out as QTI 3.0</a>
      </p>
      <Trouble :error="search.error.value ?? tray.error.value" />
      <Empty
        v-if="first && !items.length"
        text="No item matches all of this. Take a choice on the left away, or use other words."
      />
      <div v-else class="scroll">
        <LedgerTable label="Items" banded>
          <thead>
            <tr>
              <th v-if="may('build')"><span class="out-of-sight">In the tray</span></th>
              <th>Item</th>
              <th>Standard</th>
              <th>Kind</th>
              <th>Difficulty</th>
              <th class="num double">Forms</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="i in items"
              :key="i.id"
              :tabindex="i.id === chosen ? 0 : -1"
              :aria-selected="i.id === chosen"
              @click="chosen = i.id"
              @focus="onRowFocus(i.id)"
            >
              <td v-if="may('build')" class="pick">
                <input
                  type="checkbox"
                  tabindex="-1"
                  :checked="tray.has(i.id)"
                  :aria-label="`Pick ${i.identifier}`"
                  @click.stop
                  @change="tray.toggle(i.id)"
                />
              </td>
              <td class="cut">{{ i.stem }}</td>
              <td class="mono">{{ i.standards[0] }}{{ i.standards.length > 1 ? ` +${i.standards.length - 1}` : '' }}</td>
              <td class="nowrap">{{ kindName(i.kind) }}</td>
              <td class="nowrap"><DifficultyBar :value="i.difficulty" /></td>
              <td class="num double">{{ i.uses }}</td>
            </tr>
          </tbody>
        </LedgerTable>
        <div ref="end" class="soft">{{ search.hasNextPage.value ? 'More below…' : '' }}</div>
      </div>
    </section>

    <aside class="preview" aria-label="Preview">
      <ItemPreview v-if="chosen" :id="chosen" />
      <div v-if="chosen && may('build')" class="row acts">
        <Button
          :label="tray.has(chosen) ? 'Put back' : 'Pick into the tray'"
          :severity="tray.has(chosen) ? 'secondary' : undefined"
          :outlined="tray.has(chosen)"
          @click="tray.toggle(chosen)"
        />
        <Button label="Write a new version" severity="secondary" outlined @click="writeVersion(chosen)" />
      </div>
      <Trouble :error="refused" />
    </aside>
    <BeginDialog v-if="beginning" @close="beginning = false" />
    <TrayPanel v-if="trayOpen" @close="trayOpen = false" />
  </div>
</template>

<style scoped>
.bank {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 350px;
  height: 100%;
}
.narrow {
  border-right: 1px solid var(--rule);
  overflow: auto;
  padding: 10px 6px 20px 8px;
}
fieldset {
  border: 0;
  border-top: 1px solid var(--rule);
  margin: 12px 0 0;
  padding: 8px 8px 0;
}
legend {
  float: left;
  width: 100%;
  font-weight: 650;
  font-size: 12.5px;
  margin-bottom: 2px;
}
fieldset label {
  clear: both;
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 25px;
}
fieldset label span:nth-of-type(1) {
  flex: 1;
}
input[type='checkbox'] {
  width: 15px;
  height: 15px;
  accent-color: var(--pine);
}
.list {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 12px 14px 0;
}
.bar {
  display: flex;
  gap: 8px;
}
.bar > :first-child {
  flex: 1;
  min-width: 0;
}
.count {
  margin: 6px 0;
}
.scroll {
  overflow: auto;
  min-height: 0;
  flex: 1;
}
.pick {
  width: 30px;
}
.nowrap {
  white-space: nowrap;
}
.preview {
  border-left: 1px solid var(--rule);
  overflow: auto;
  padding: 12px 14px;
}
.acts {
  margin-top: 12px;
}
.out {
  margin-left: 12px;
}
</style>
