<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import InputText from 'primevue/inputtext'
import { useRoute, useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import * as assessmentQueries from '@/queries/assess'
import * as rosterQueries from '@/queries/rosters'
import LookPanel from './LookPanel.vue'
import SettingPanel from './SettingPanel.vue'
import SettingsTable from './SettingsTable.vue'
import type { Place } from './settings'
import { useSettings, type Change } from './useSettings'

/** What holds for all: the district's defaults and those of each purpose. A change is looked at before it reaches assessments. */
const route = useRoute()
const router = useRouter()
const purposes = useQuery(assessmentQueries.purposes)
const schools = useQuery(rosterQueries.schools)
const place = computed<Place>(() => {
  const { purpose, school } = route.query
  if (typeof purpose === 'string' && purpose) return { purpose }
  return Number(school) > 0 ? { school: Number(school) } : {}
})
const open = useSettings(place)
const { view } = open
const words = ref('')
const stay = (part: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...part } })
const options = computed(() => [
  { value: '', label: 'The whole district' },
  ...(purposes.data.value ?? []).map((p) => ({ value: `purpose=${p}`, label: `Purpose, ${p}` })),
  ...(schools.data.value ?? []).map((s) => ({ value: `school=${s.id}`, label: `${s.name}, all assessments` })),
])
const spot = computed({
  get: () => (place.value.purpose ? `purpose=${place.value.purpose}` : place.value.school ? `school=${place.value.school}` : ''),
  set: (to) => {
    const [name, value] = to.split('=')
    void stay({ purpose: undefined, school: undefined, ...(name && { [name]: value }) })
  },
})
const chosen = computed(() => (typeof route.query.setting === 'string' ? route.query.setting : undefined))
const setting = computed(() => (chosen.value ? open.byKey(chosen.value) : undefined))
const looking = ref<Change>()

async function show(key?: string) {
  await stay({ setting: key })
  looking.value = undefined
  open.put.reset()
  open.look.reset()
}
/** A change that reaches assessments is looked at first. */
async function change(c: Change) {
  const reached = await open.look.mutateAsync([c]).catch(() => undefined)
  if (!reached) return
  if (reached.length) looking.value = c
  else open.put.mutate({ changes: [c] })
}
async function apply(keep: number[]) {
  await open.put.mutateAsync({ changes: [looking.value!], keep }).then(
    () => (looking.value = undefined),
    () => undefined,
  )
}
</script>

<template>
  <div class="page">
    <PageHead title="Defaults">
      <template #note>
        {{
          place.purpose
            ? `What assessments for ${place.purpose} start with`
            : place.school
              ? 'What holds at this school for all assessments'
              : 'What every assessment starts with'
        }}<template v-if="open.savedAt.value">. Saved {{ open.savedAt.value }}</template
        ><template v-if="open.undoable.value">
          <button type="button" class="link-button" @click="open.undo.mutate()">Undo</button></template
        >
      </template>
      <label>Defaults of <Choose v-model="spot" :options="options" /></label>
    </PageHead>
    <Trouble :error="open.query.error.value ?? open.undo.error.value" />
    <template v-if="view">
      <p v-if="!view.mayChange" class="soft">{{ view.whyNot }}</p>
      <div class="tools">
        <InputText v-model="words" type="search" placeholder="Search settings" aria-label="Search settings" />
      </div>
      <SettingsTable :view="view" :words="words" :only-differing="false" :chosen="chosen" @open="show" />
      <LookPanel
        v-if="looking && open.look.data.value"
        :reached="open.look.data.value"
        :busy="open.put.isPending.value"
        :error="open.put.error.value"
        @close="looking = undefined"
        @apply="apply"
      />
      <SettingPanel
        v-else-if="setting"
        :setting="setting"
        :view="view"
        :busy="open.put.isPending.value || open.look.isPending.value"
        :error="open.put.error.value ?? open.look.error.value"
        @close="show()"
        @change="change"
      />
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.tools {
  margin-bottom: 12px;
}
</style>
