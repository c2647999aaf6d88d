<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { refDebounced, useIntersectionObserver } from '@vueuse/core'
import InputText from 'primevue/inputtext'
import { computed, ref, useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { moment } from '@/contract/format'
import { folded } from './folded'

const words = ref('')
const settled = refDebounced(words, 200)
const page = 100
const query = useInfiniteQuery({
  queryKey: ['ledger', settled],
  initialPageParam: 0,
  queryFn: ({ pageParam }) =>
    call(
      api.GET('/ledger', {
        params: { query: { before: pageParam || undefined, words: settled.value || undefined, limit: page } },
      }),
    ),
  getNextPageParam: (last) => (last.length === page ? last.at(-1)!.number : undefined),
})
const entries = computed(() => query.data.value?.pages.flat() ?? [])
const open = ref<Schemas['LedgerEntry']>()

/** Sign-ins that follow each other stand in one row until it is unfolded: they are most of the entries and say least. */
const fewest = 3
const unfolded = ref(new Set<number>())
const rows = computed(() => folded(entries.value, fewest))
function unfold(first: number) {
  unfolded.value = new Set([...unfolded.value, first])
}
const end = useTemplateRef('end')
useIntersectionObserver(end, ([e]) => {
  if (e?.isIntersecting && query.hasNextPage.value && !query.isFetchingNextPage.value) void query.fetchNextPage()
})
function pretty(text: string) {
  try {
    return JSON.stringify(JSON.parse(text), null, 2)
  } catch {
    return text
  }
}
</script>

<template>
  <div class="page">
    <PageHead
      title="Ledger"
      note="Who did what, newest first. Entries are only ever added; each holds the hash of the one before it."
    >
      <InputText v-model="words" data-search placeholder="Person, act or thing" aria-label="Person, act or thing" />
      <RouterLink to="/ledger/paper">Its last entry on paper</RouterLink>
    </PageHead>
    <Trouble :error="query.error.value" />
    <Empty
      v-if="query.data.value && !entries.length"
      :text="words ? 'No entry has these words.' : 'Nothing has been done yet.'"
    />
    <LedgerTable v-else label="Ledger entries" banded>
      <thead>
        <tr>
          <th class="num">No.</th>
          <th>When</th>
          <th>Who</th>
          <th>Did</th>
          <th>To</th>
          <th class="double">Hash</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="(run, r) in rows" :key="run[0]!.number">
          <tr v-if="run.length > 1 && !unfolded.has(run[0]!.number)" :tabindex="r ? -1 : 0" @click="unfold(run[0]!.number)">
            <td class="num">{{ run.at(-1)!.number }}–{{ run[0]!.number }}</td>
            <td class="nowrap">{{ moment(run[0]!.at) }}</td>
            <td colspan="4" class="soft">{{ run.length }} sign-ins and wrong tries. Press to see each.</td>
          </tr>
          <tr
            v-for="(e, i) in run.length > 1 && !unfolded.has(run[0]!.number) ? [] : run"
            :key="e.number"
            :tabindex="r || i ? -1 : 0"
            :aria-selected="open?.number === e.number"
            @click="open = e"
          >
            <td class="num">{{ e.number }}</td>
            <td class="nowrap">{{ moment(e.at) }}</td>
            <td class="nowrap">{{ e.actor || 'Pine Ledger' }}</td>
            <td class="nowrap">{{ e.did }}</td>
            <td class="cut">{{ e.title }}</td>
            <td class="mono double soft">{{ e.hash.slice(0, 10) }}</td>
          </tr>
        </template>
      </tbody>
    </LedgerTable>
    <div ref="end" class="soft">{{ query.hasNextPage.value ? 'More below…' : '' }}</div>
    <SidePanel v-if="open" :title="`Entry ${open.number}`" @close="open = undefined">
      <p>
        <strong>{{ open.actor || 'Pine Ledger' }}</strong> {{ open.did }} <strong>{{ open.title }}</strong><br /><span
          class="soft"
          >{{ moment(open.at) }}</span
        >
      </p>
      <template
        v-for="[name, text] in [
          ['Before', open.before],
          ['After', open.after],
        ] as const"
        :key="name"
      >
        <template v-if="text">
          <h3>{{ name }}</h3>
          <pre tabindex="0" :aria-label="name">{{ pretty(text) }}</pre>
        </template>
      </template>
      <h3>Hash</h3>
      <p class="mono hash">{{ open.hash }}</p>
    </SidePanel>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.nowrap {
  white-space: nowrap;
}
pre {
  font: 12px/1.5 var(--mono);
  background: var(--tint);
  padding: 8px 10px;
  max-height: 320px;
  overflow: auto;
}
.hash {
  overflow-wrap: anywhere;
}
</style>
