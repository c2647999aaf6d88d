<script setup lang="ts">
import { keepPreviousData, useInfiniteQuery } from '@tanstack/vue-query'
import { until, useIntersectionObserver, watchDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import Empty from '@/parts/Empty.vue'
import Trouble from '@/parts/Trouble.vue'
import { isTyping, useScreenKeys } from '@/parts/keys'
import { api, call } from '@/contract/client'
import { plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import BeginDialog from '@/places/write/BeginDialog.vue'
import ImportPanel from '@/places/rosters/ImportPanel.vue'
import BankTabs from './BankTabs.vue'
import ItemList from './ItemList.vue'
import ItemPreview from './ItemPreview.vue'
import LinksNote from './LinksNote.vue'
import MarkedBar from './MarkedBar.vue'
import Narrow from './Narrow.vue'
import Restrictions from './Restrictions.vue'
import TrayPanel from './TrayPanel.vue'
import { nothing, searchParams, sorts, useBankQuery, type Sort } from './useBankQuery'
import { useMarked } from './useMarked'
import { useTray } from './useTray'

const { may } = useSession()
const router = useRouter()
const { query, narrowed, search: address, change } = useBankQuery()
const tray = useTray()
const chosen = ref<number>()
const trayOpen = ref(false)
const beginning = ref(false)
const importing = ref(false)

const words = ref(query.value.words)
watch(
  () => query.value.words,
  (now) => (words.value = now),
)
watchDebounced(words, (now) => now !== query.value.words && change({ words: now }, true), { debounce: 180 })

const search = useInfiniteQuery({
  queryKey: ['items', query],
  initialPageParam: '',
  queryFn: ({ pageParam }) =>
    call(api.GET('/items', { params: { query: { ...searchParams(query.value), cursor: pageParam || undefined, limit: 60 } } })),
  getNextPageParam: (last) => last.next || undefined,
  placeholderData: keepPreviousData,
})
const items = computed(() => search.data.value?.pages.flatMap((p) => p.items) ?? [])
const first = computed(() => search.data.value?.pages[0])
const marks = useMarked(() => items.value.map((i) => i.id))
watch(items, (now) => {
  if (!now.some((i) => i.id === chosen.value)) chosen.value = now[0]?.id
})

const end = useTemplateRef('end')
useIntersectionObserver(end, ([entry]) => {
  if (entry?.isIntersecting && search.hasNextPage.value && !search.isFetchingNextPage.value) void search.fetchNextPage()
})

const orders = Object.entries(sorts).map(([value, label]) => ({ value: value as Sort, label }))

const list = useTemplateRef<HTMLElement>('list')
/** From the words into the list that they lead to: what was typed last is searched first. */
async function toList() {
  // Until the address has them the list is still of the words before, and would go from under the focus.
  if (words.value !== query.value.words) await change({ words: words.value }, true)
  await nextTick()
  await until(() => search.isFetching.value).toBe(false)
  await nextTick()
  list.value?.querySelector<HTMLElement>('tr[tabindex="0"]')?.focus()
}
function onKey(e: KeyboardEvent) {
  if (isTyping(e) || e.ctrlKey || e.metaKey || e.altKey || !chosen.value) return
  if (e.key === 'p' && may('build')) tray.toggle(chosen.value)
  else if (e.key === 'm') marks.mark(chosen.value)
  else if (e.key === 'o' || (e.key === 'Enter' && e.target instanceof HTMLTableRowElement))
    void router.push(`/bank/items/${chosen.value}`)
  else return
  e.preventDefault()
}
useScreenKeys([
  ['↑ ↓', 'through the items; the preview follows'],
  ['p', 'pick the item into the tray, or put it back'],
  ['m', 'mark the item, for an act on several'],
  ['Enter or o', 'open the item’s page'],
])
</script>

<template>
  <div class="bank" @keydown="onKey">
    <BankTabs>
      <Button
        v-if="may('build')"
        :label="`Tray, ${tray.items.value.length}`"
        severity="secondary"
        size="small"
        outlined
        @click="trayOpen = true"
      />
      <Button v-if="may('import')" label="Import files" size="small" severity="secondary" outlined @click="importing = true" />
      <Button v-if="may('build')" label="Write an item" size="small" @click="beginning = true" />
    </BankTabs>
    <div class="columns">
      <Narrow :facets="first?.facets ?? []" />

      <section ref="list" class="list" aria-label="Items">
        <div class="bar">
          <InputText
            v-model="words"
            data-search
            placeholder="Words in stem, choices and passage"
            aria-label="Words in stem, choices and passage"
            @keydown.down.prevent="toList"
          />
          <Choose
            :model-value="query.sort"
            :options="orders"
            aria-label="Order"
            @update:model-value="(s?: Sort) => s && change({ sort: s })"
          />
        </div>
        <Restrictions />
        <MarkedBar
          v-if="marks.ids.value.length"
          :marks="marks"
          :items="items"
          :total="first?.total ?? 0"
          @done="search.refetch()"
        />
        <p v-else class="count" aria-live="polite">
          {{ plural(first?.total ?? 0, 'item') }}
          <button v-if="narrowed" type="button" class="link-button" @click="change(nothing)">show all</button>
          <template v-if="may('build') && first?.total">
            <span class="soft">export as</span>
            <a :href="`/api/item-package.zip?${address}`" download="items.zip">QTI 3.0</a>
            <a :href="`/api/items.csv?${address}`" download="items.csv">CSV</a>
            <a :href="`/api/items.xlsx?${address}`" download="items.xlsx">XLSX</a>
          </template>
        </p>
        <LinksNote
          v-if="first?.links?.length || query.unlinked"
          :links="first?.links ?? []"
          :off="query.unlinked"
          @toggle="change({ unlinked: !query.unlinked })"
        />
        <Trouble :error="search.error.value ?? tray.error.value" />
        <Empty v-if="first && !items.length" text="No item matches. Clear a filter on the left, or try other words." />
        <div v-else class="scroll">
          <ItemList
            :items="items"
            :chosen="chosen"
            :marked="marks.marked.value"
            :in-tray="tray.has"
            :may-pick="may('build')"
            @choose="(id) => (chosen = id)"
            @open="(id) => router.push(`/bank/items/${id}`)"
            @mark="marks.mark"
            @pick="tray.toggle"
          />
          <div ref="end" class="soft">{{ search.hasNextPage.value ? 'More below…' : '' }}</div>
        </div>
      </section>

      <aside class="preview" aria-label="Preview">
        <ItemPreview v-if="chosen" :id="chosen">
          <Button
            v-if="may('build')"
            :label="tray.has(chosen) ? 'Remove from the tray' : 'Add to the tray'"
            size="small"
            :severity="tray.has(chosen) ? 'secondary' : undefined"
            :outlined="tray.has(chosen)"
            @click="tray.toggle(chosen)"
          />
        </ItemPreview>
      </aside>
    </div>
    <BeginDialog v-if="beginning" @close="beginning = false" />
    <ImportPanel v-if="importing" kind="items" @close="importing = false" />
    <TrayPanel v-if="trayOpen" @close="trayOpen = false" />
  </div>
</template>

<style scoped>
.bank {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.columns {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr) 336px;
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
  min-height: 30px;
  display: flex;
  align-items: center;
  gap: 12px;
}
.scroll {
  overflow: auto;
  min-height: 0;
  flex: 1;
}
.preview {
  border-left: 1px solid var(--rule);
  overflow: auto;
  padding: 12px 14px;
}
@media (max-width: 860px) {
  .bank {
    height: auto;
  }
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .columns > :first-child {
    max-height: 34vh;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  .scroll {
    flex: none;
    height: 70vh;
  }
  .preview {
    border-left: 0;
    border-top: 1px solid var(--rule);
  }
}
</style>
