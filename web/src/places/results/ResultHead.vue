<script setup lang="ts">
import { IconDownload } from '@tabler/icons-vue'
import { useMutation } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import PageHead from '@/parts/PageHead.vue'
import BandSwatch from '@/parts/BandSwatch.vue'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import { api, call, queries, type Schemas } from '@/contract/client'
import { moment, plural } from '@/contract/format'
import { useSession } from '@/contract/session'

/** What every page of results says at its top: who handed in, which edition, which cuts. */
const props = defineProps<{ title: string; head: Schemas['ResultHead']; view: 'bands' | 'matrix'; exports: string }>()
useCrumb(() => props.head.result.title)

const { session } = useSession()
/** Until the window is over a coordinator decides whether teachers read stems and keys. */
const mayOpen = computed(() => session.value?.rights.includes('build') && Date.now() < Date.parse(props.head.result.closesAt))
const keys = useMutation({
  mutationFn: (open: boolean) =>
    call(api.PUT('/results/{id}/keys', { params: { path: { id: props.head.result.id } }, body: { open } })),
  onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['by-band', 'matrix'].includes(String(q.queryKey[0])) }),
})
</script>

<template>
  <PageHead :title="title">
    <template #note>
      {{ head.result.scored + head.result.waiting }} of {{ head.result.seats }} handed in{{
        head.result.waiting ? `, ${head.result.waiting} not scored yet` : ''
      }}
      · edition {{ head.edition }} ·
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
    <button v-if="mayOpen" type="button" class="as-button" :disabled="keys.isPending.value" @click="keys.mutate(!head.keysOpen)">
      {{ head.keysOpen ? 'Close the keys to teachers' : 'Open the keys to teachers' }}
    </button>
    <RouterLink v-if="view !== 'bands'" class="as-button" :to="`/results/${head.result.id}`">By band and standard</RouterLink>
    <RouterLink v-if="view !== 'matrix'" class="as-button" :to="`/results/${head.result.id}/matrix`">Students × lines</RouterLink>
    <a class="as-button" :href="exports" download><IconDownload :size="15" aria-hidden="true" /> Export as CSV</a>
  </PageHead>
  <Trouble :error="keys.error.value" />
  <p v-if="head.recut" class="soft" role="note">
    {{ head.recut.by }} changed the cuts on {{ moment(head.recut.at) }}: {{ head.recut.reason }}
  </p>
  <p v-if="head.notComparable" class="soft" role="note">
    {{ plural(head.notComparable, 'result') }} {{ head.notComparable === 1 ? 'does' : 'do' }} not compare: a support broke what is
    measured, with a coordinator’s reason. {{ head.notComparable === 1 ? 'It is' : 'They are' }} in no summary.
  </p>
  <p v-if="head.keysClosed" class="soft" role="note">
    Your classes have yet to sit this: stems and keys open when the window is over, {{ moment(head.result.closesAt) }}.
  </p>
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
  background: none;
  color: var(--ink);
  font: inherit;
  font-weight: 600;
  text-decoration: none;
  cursor: pointer;
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
