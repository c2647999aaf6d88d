<script setup lang="ts">
import { IconDownload } from '@tabler/icons-vue'
import { RouterLink } from 'vue-router'
import PageHead from '@/parts/PageHead.vue'
import BandSwatch from '@/parts/BandSwatch.vue'
import { useCrumb } from '@/parts/crumb'
import type { Schemas } from '@/contract/client'

/** What every page of results says at its top: who handed in, which edition, which cuts. */
const props = defineProps<{ title: string; head: Schemas['ResultHead']; view: 'bands' | 'matrix'; exports: string }>()
useCrumb(() => props.head.result.title)
</script>

<template>
  <PageHead :title="title">
    <template #note>
      {{ head.result.scored }} of {{ head.result.seats }} handed in · edition {{ head.edition }} ·
      <span class="mono" :title="`Sealed as ${head.fingerprint}`">{{ head.fingerprint.slice(0, 12) }}</span> ·
      {{
        head.cuts
          ? `cuts ${head.cuts.starts
              .slice(1)
              .map((s) => s.raw ?? '–')
              .join(', ')} of ${head.total}`
          : `${head.total} points, no bands`
      }}
    </template>
    <RouterLink v-if="view !== 'bands'" class="as-button" :to="`/results/${head.result.id}`">By band and standard</RouterLink>
    <RouterLink v-if="view !== 'matrix'" class="as-button" :to="`/results/${head.result.id}/matrix`">Students × lines</RouterLink>
    <a class="as-button" :href="exports" download><IconDownload :size="15" aria-hidden="true" /> Export as CSV</a>
  </PageHead>
  <ul v-if="head.cuts" class="key" aria-label="Bands">
    <li v-for="(s, i) in head.cuts.starts" :key="s.name">
      <BandSwatch :at="i" :of="head.cuts.starts.length" />{{ s.name }} <span class="soft">from {{ s.raw ?? '–' }}</span>
    </li>
  </ul>
</template>

<style scoped>
.as-button {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  height: 31px;
  padding: 0 12px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  color: var(--ink);
  font-weight: 600;
  text-decoration: none;
}
.as-button:hover {
  background: var(--tint);
}
.key {
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
  list-style: none;
  padding: 0;
  margin: 0 0 10px;
}
</style>
