<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useIntersectionObserver, watchDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { capital, gradeName, plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import ImportPanel from '@/places/rosters/ImportPanel.vue'
import * as assessmentQueries from '@/queries/assess'
import OfficialPanel from './OfficialPanel.vue'

/** What the state publishes of its tests; a table opens beside the list. */
const route = useRoute()
const router = useRouter()
const { may } = useSession()
const tables = useQuery(assessmentQueries.officialTables)
const chosen = computed(() => Number(route.params.id) || undefined)
const open = (id?: number) => router.push({ path: `/bands/official${id ? `/${id}` : ''}`, query: route.query })
const importing = ref(false)

/** With every word that is typed a word of a table's row must begin. */
const words = ref(typeof route.query.words === 'string' ? route.query.words : '')
watchDebounced(words, (now) => router.replace({ query: now ? { words: now } : {} }), { debounce: 180 })
const fitting = computed(() => {
  const asked = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (tables.data.value ?? []).filter((t) => {
    const row = [t.year, t.subject, 'grade', gradeName(t.grade), t.test, t.source].join(' ').toLowerCase()
    return asked.every((w) => ` ${row}`.includes(` ${w}`))
  })
})
/** More are drawn as one comes to the end of those that are. */
const page = 100
const drawn = ref(page)
watch(words, () => (drawn.value = page))
const shown = computed(() => fitting.value.slice(0, drawn.value))
useIntersectionObserver(useTemplateRef('end'), ([e]) => {
  if (e?.isIntersecting) drawn.value += page
})
</script>

<template>
  <div class="page">
    <PageHead
      title="Official tables"
      note="How many raw points the state makes which scale score and which band, for each test, grade and year"
    >
      <RouterLink to="/bands">Band sets</RouterLink>
      <InputText
        v-model="words"
        data-search
        placeholder="Year, subject, grade or test"
        aria-label="Year, subject, grade or test"
      />
      <Button v-if="may('import')" label="Import files" @click="importing = true" />
    </PageHead>
    <Trouble :error="tables.error.value" />
    <p v-if="tables.data.value?.length" class="soft count" role="status">
      {{
        fitting.length === tables.data.value.length
          ? plural(fitting.length, 'table')
          : `${fitting.length} of ${plural(tables.data.value.length, 'table')}`
      }}
      <button v-if="words" type="button" class="link-button" @click="words = ''">Clear filter</button>
    </p>
    <Empty
      v-if="tables.data.value && !tables.data.value.length"
      text="Here are the tables that the state publishes after each test. Cuts that equal none of them are told on every assessment."
    >
      <Button v-if="may('import')" label="Import tables" size="small" @click="importing = true" />
    </Empty>
    <LedgerTable v-else label="Official tables" banded>
      <thead>
        <tr>
          <th>Year</th>
          <th>Subject</th>
          <th>Grade</th>
          <th>Test</th>
          <th class="num">Points</th>
          <th class="num">Bands</th>
          <th class="double">From</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(t, i) in shown" :key="t.id" :tabindex="i ? -1 : 0" :aria-selected="t.id === chosen" @click="open(t.id)">
          <td class="nowrap">
            <strong>{{ t.year }}</strong>
          </td>
          <td>{{ capital(t.subject) }}</td>
          <td>{{ gradeName(t.grade) }}</td>
          <td class="nowrap">{{ t.test || '–' }}</td>
          <td class="num">{{ t.most }}</td>
          <td class="num">{{ t.bands }}</td>
          <td class="double cut" :title="t.source">{{ t.source }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <div v-if="shown.length < fitting.length" :key="drawn" ref="end" />
    <OfficialPanel v-if="chosen" :id="chosen" :key="chosen" @close="open()" />
    <ImportPanel v-if="importing" kind="tables" @close="importing = false" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.nowrap {
  white-space: nowrap;
}
.count {
  margin: 0 0 4px;
}
</style>
