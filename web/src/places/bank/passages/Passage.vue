<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import LedgerTable from '@/parts/LedgerTable.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import { api, call } from '@/contract/client'
import { kindName, languageName, plural, tenths } from '@/contract/format'
import { useSession } from '@/contract/session'
import { useTray } from '../useTray'
import PassageFields from './PassageFields.vue'

/** A passage: its text, how hard it reads and why, where it comes from, and its items, to be used as a set. */
const route = useRoute()
const router = useRouter()
const { may } = useSession()
const tray = useTray()
const id = computed(() => Number(route.params.id) || 0)
const editing = ref(false)

const detail = useQuery({
  queryKey: ['passage', id],
  queryFn: () => call(api.GET('/passages/{id}', { params: { path: { id: id.value } } })),
  enabled: computed(() => id.value > 0),
})
const d = computed(() => (id.value ? detail.data.value : undefined))
useCrumb(() => d.value?.passage.title ?? (id.value ? undefined : 'A new passage'))

const toPick = computed(() => (d.value?.items ?? []).map((i) => i.id).filter((i) => !tray.has(i)))
const ratio = (a: number, b: number) => (b ? (a / b).toFixed(2) : '–')

const use = useMutation({ mutationFn: () => tray.pick.mutateAsync(toPick.value) })
async function kept(passage: number) {
  editing.value = false
  await detail.refetch()
  if (!id.value) await router.replace(`/bank/passages/${passage}`)
}
</script>

<template>
  <div class="page">
    <Trouble :error="detail.error.value ?? use.error.value" />
    <PassageFields
      v-if="!id || editing"
      :detail="d"
      @kept="kept"
      @leave="id ? (editing = false) : router.push('/bank/passages')"
    />
    <template v-else-if="d">
      <div class="acts">
        <Button v-if="d.mayChange" label="Change" size="small" @click="editing = true" />
        <Button
          v-if="may('build') && d.items.length"
          :label="toPick.length ? `Pick the set of ${d.items.length} into the tray` : 'The whole set is in the tray'"
          size="small"
          severity="secondary"
          outlined
          :disabled="!toPick.length"
          @click="use.mutate()"
        />
        <RouterLink v-if="d.items.length" :to="{ path: '/bank', query: { passage: String(id) } }"
          >its items in the bank</RouterLink
        >
      </div>
      <div class="columns">
        <article class="text" :lang="d.passage.language">
          <h1>{{ d.passage.title }}</h1>
          <SafeHtml :html="d.body" />
        </article>
        <div>
          <section aria-labelledby="reads">
            <h2 id="reads">How it reads</h2>
            <dl>
              <dt>Words</dt>
              <dd>{{ d.passage.words }}</dd>
              <dt>Sentences</dt>
              <dd>{{ d.sentences }}, {{ ratio(d.passage.words, d.sentences) }} words each</dd>
              <dt>Syllables</dt>
              <dd>{{ d.syllables }}, {{ ratio(d.syllables, d.passage.words) }} a word</dd>
              <template v-if="d.passage.readingGrade !== undefined">
                <dt>Flesch–Kincaid grade</dt>
                <dd>
                  <details>
                    <summary>{{ tenths(d.passage.readingGrade) }}</summary>
                    0.39 × {{ ratio(d.passage.words, d.sentences) }} + 11.8 × {{ ratio(d.syllables, d.passage.words) }} − 15.59
                  </details>
                </dd>
                <dt>Flesch reading ease</dt>
                <dd>
                  <details>
                    <summary>{{ tenths(d.readingEase) }}</summary>
                    206.835 − 1.015 × {{ ratio(d.passage.words, d.sentences) }} − 84.6 × {{ ratio(d.syllables, d.passage.words) }}
                  </details>
                </dd>
              </template>
              <template v-else>
                <dt>Readability</dt>
                <dd class="soft">the formulas are made for English</dd>
              </template>
            </dl>
          </section>
          <section aria-labelledby="from">
            <h2 id="from">Where it comes from</h2>
            <dl>
              <dt>Source</dt>
              <dd>{{ d.passage.source || 'not noted' }}</dd>
              <dt>Permission</dt>
              <dd :class="{ caution: !d.passage.permission }">{{ d.passage.permission || 'not noted' }}</dd>
              <dt>Language</dt>
              <dd>{{ languageName(d.passage.language) }}</dd>
              <dt>Bank</dt>
              <dd>{{ d.passage.bank }}</dd>
              <dt>Owner</dt>
              <dd>{{ d.owner || 'nobody; its bank’s keepers' }}</dd>
              <dt>Used on</dt>
              <dd>{{ plural(d.drafts, 'draft') }} and {{ plural(d.forms, 'sealed form') }}</dd>
            </dl>
          </section>
          <section aria-labelledby="its-items">
            <h2 id="its-items">Its items</h2>
            <p v-if="!d.items.length" class="soft">No item hangs on it yet. An item names its passage where it is written.</p>
            <LedgerTable v-else label="Its items">
              <thead>
                <tr>
                  <th>Item</th>
                  <th>Standard</th>
                  <th>Kind</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="(i, n) in d.items" :key="i.id" :tabindex="n ? -1 : 0" @click="router.push(`/bank/items/${i.id}`)">
                  <td class="cut">
                    <RouterLink :to="`/bank/items/${i.id}`" tabindex="-1">{{ i.stem }}</RouterLink>
                  </td>
                  <td class="mono">{{ i.standards[0] }}</td>
                  <td class="nowrap">{{ kindName(i.kind) }}</td>
                </tr>
              </tbody>
            </LedgerTable>
          </section>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 18px 40px;
}
.acts {
  display: flex;
  gap: 12px;
  align-items: center;
  padding-bottom: 12px;
  border-bottom: 1px solid var(--rule);
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
  padding-top: 14px;
}
.text {
  font-family: var(--reading);
  font-size: 16px;
  line-height: 1.6;
  max-width: 640px;
}
section {
  margin-bottom: 20px;
}
h2 {
  margin-bottom: 6px;
}
dl {
  display: grid;
  grid-template-columns: 160px 1fr;
  gap: 3px 14px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
.caution {
  color: var(--resin);
}
summary {
  min-height: 24px;
  cursor: pointer;
}
.nowrap {
  white-space: nowrap;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
