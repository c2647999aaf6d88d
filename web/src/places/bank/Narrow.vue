<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { capital } from '@/contract/format'
import { useSession } from '@/contract/session'
import { facetValue } from './restrictions'
import SavedSearches from './SavedSearches.vue'
import StandardsTree from './StandardsTree.vue'
import { searchParams, useBankQuery, type FacetName } from './useBankQuery'

/** What narrows the search: kept searches, standards, facets, tags, use and owner, each with what it would find. */
const props = defineProps<{ facets: Schemas['Facet'][] }>()
const { query, change, toggle, toggleTag } = useBankQuery()
const { session } = useSession()

const names: Partial<Record<string, string>> = { ease: 'Difficulty', depth: 'Depth of knowledge' }
const eases = ['hard', 'medium', 'easy']
const shown = computed(() =>
  props.facets
    .filter((f) => f.values.length > 1 || query.value.facets[f.name as FacetName].length)
    .map((f) =>
      f.name === 'ease' ? { ...f, values: [...f.values].sort((a, b) => eases.indexOf(a.value) - eases.indexOf(b.value)) } : f,
    ),
)

const tags = useQuery({
  queryKey: ['item-tags', query],
  queryFn: () => call(api.GET('/item-tags', { params: { query: { ...searchParams(query.value), sort: undefined } } })),
  placeholderData: keepPreviousData,
})
const tagsShown = computed(() => {
  const found = tags.data.value ?? []
  const first = found.slice(0, 12)
  return [...first, ...found.filter((t) => query.value.tags.includes(t.name) && !first.includes(t))]
})

const used = computed(() => {
  const q = query.value
  if (q.usesTo === 0) return 'never'
  if (q.usedSince) return 'since'
  if (q.notUsedSince) return 'notSince'
  return ''
})
const year = computed(() => session.value?.year.slice(0, 4) ?? '')
function chooseUse(value: string) {
  change({
    usesTo: value === 'never' ? 0 : undefined,
    usedSince: value === 'since' ? `${year.value}-07-01` : '',
    notUsedSince: value === 'notSince' ? `${year.value}-07-01` : '',
  })
}
</script>

<template>
  <aside class="narrow" aria-label="Narrow the search">
    <SavedSearches />
    <StandardsTree :chosen="query.standard" :search="query" @choose="(id) => change({ standard: id, unaligned: false })" />
    <label class="line">
      <input
        type="checkbox"
        :checked="query.unaligned"
        @change="change({ unaligned: !query.unaligned, standard: undefined })"
      /><span>aligned to nothing</span>
    </label>
    <fieldset v-for="f in shown" :key="f.name">
      <legend>{{ names[f.name] ?? capital(f.name) }}</legend>
      <label v-for="v in f.values" :key="v.value" class="line">
        <input
          type="checkbox"
          :checked="query.facets[f.name as FacetName].includes(v.value)"
          @change="toggle(f.name as FacetName, v.value)"
        />
        <span>{{ facetValue(f.name as FacetName, v.value) }}</span>
        <span class="soft">{{ v.count }}</span>
      </label>
    </fieldset>
    <fieldset v-if="tagsShown.length">
      <legend>Tag</legend>
      <label v-for="t in tagsShown" :key="t.id" class="line">
        <input type="checkbox" :checked="query.tags.includes(t.name)" @change="toggleTag(t.name)" />
        <span
          >{{ t.name }}<span v-if="t.scope !== 'everyone'" class="soft scope"> {{ t.scope }}</span></span
        >
        <span class="soft">{{ t.items }}</span>
      </label>
    </fieldset>
    <fieldset>
      <legend>Use</legend>
      <label
        v-for="[value, text] in [
          ['', 'whether used or not'],
          ['never', 'never used'],
          ['since', 'used this school year'],
          ['notSince', 'not used this school year'],
        ]"
        :key="value"
        class="line"
      >
        <input type="radio" name="used" :checked="used === value" @change="chooseUse(value!)" /><span>{{ text }}</span>
      </label>
    </fieldset>
    <fieldset>
      <legend>Owner</legend>
      <label class="line">
        <input
          type="checkbox"
          :checked="query.owner === session?.personId"
          @change="change({ owner: query.owner === session?.personId ? undefined : session?.personId })"
        /><span>my items</span>
      </label>
    </fieldset>
  </aside>
</template>

<style scoped>
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
.line {
  clear: both;
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 25px;
}
.narrow > .line {
  padding: 4px 8px 0;
}
.line > span:nth-of-type(1) {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.scope {
  font-size: 11.5px;
}
input {
  width: 15px;
  height: 15px;
  accent-color: var(--pine);
  flex-shrink: 0;
}
</style>
