<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { useEventListener } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { moment } from '@/contract/format'
import { isTyping, useScreenKeys } from '@/parts/keys'
import { useOpenSheet } from '@/places/assessments/sheet/open'
import SettingPanel from '@/places/settings/SettingPanel.vue'
import SettingsTable from '@/places/settings/SettingsTable.vue'
import { placeIn, spots } from '@/places/settings/settings'
import { useSettings } from '@/places/settings/useSettings'
import BesideChoice from './BesideChoice.vue'
import { useBeside } from './useBeside'

/** How this assessment is given: every setting in words, where it comes from, and what differs from its purpose. */
const { sheet } = useOpenSheet()
const route = useRoute()
const router = useRouter()
const id = computed(() => sheet.value.id)
const open = useSettings(computed(() => placeIn(route.query, id.value)))
const { view } = open

const words = ref(typeof route.query.words === 'string' ? route.query.words : '')
const stay = (part: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...part } })
watch(words, (w) => void stay({ words: w.trim() || undefined }))
const differing = computed(() => route.query.differs !== undefined)
const chosen = computed(() => (typeof route.query.setting === 'string' ? route.query.setting : undefined))
const setting = computed(() => (chosen.value ? open.byKey(chosen.value) : undefined))

const places = computed(() => (view.value ? spots(view.value, id.value) : []))
const spot = computed({
  get: () =>
    route.query.section
      ? `section=${String(route.query.section)}`
      : route.query.school
        ? `school=${String(route.query.school)}`
        : '',
  set: (to) => {
    const [name, value] = to.split('=')
    void stay({ school: undefined, section: undefined, ...(name && { [name]: value }) })
  },
})
const { key: besideKey, at: besideAt, spots: besideSpots, other, beside } = useBeside(id, spot, places)

/** Feedback that waits to be released, once the assessment is out. */
const releases = computed(
  () =>
    sheet.value.maySend &&
    !!view.value?.where.length &&
    open.byKey('laterWhen')?.value === 'released' &&
    (open.byKey('later')?.value as string[]).length > 0,
)
const release = useMutation({
  mutationFn: (released: boolean) =>
    call(api.PUT('/assessments/{id}/feedback', { params: { path: { id: id.value } }, body: { released } })),
  onSuccess: () => open.query.refetch(),
})

async function show(key?: string) {
  await stay({ setting: key })
  open.put.reset()
}
useEventListener(document, 'keydown', (e) => {
  if (e.key === '/' && !isTyping(e)) {
    document.getElementById('settings-search')?.focus()
    e.preventDefault()
  }
})
useScreenKeys([
  ['/', 'search settings'],
  ['↑ ↓', 'from setting to setting'],
  ['Enter', 'open a setting'],
  ['Esc', 'close it'],
])
</script>

<template>
  <div class="page">
    <PageHead title="Settings">
      <template #note>
        Purpose <strong>{{ view?.purpose }}</strong><template v-if="view?.releasedAt"
          >. Feedback released {{ moment(view.releasedAt) }}</template
        ><template v-if="open.savedAt.value">. Saved {{ open.savedAt.value }}</template
        ><template v-if="open.undoable.value">
          <button type="button" class="link-button" @click="open.undo.mutate()">Undo</button></template
        >
      </template>
      <Button
        v-if="releases"
        :label="view?.releasedAt ? 'Take feedback back' : 'Release feedback'"
        severity="secondary"
        outlined
        :loading="release.isPending.value"
        @click="release.mutate(!view?.releasedAt)"
      />
      <BesideChoice :places="places" :chosen="besideKey" :except="id" @choose="(b) => stay({ beside: b, besideAt: undefined })" />
      <RouterLink :to="{ path: '/assessments/defaults', query: { purpose: view?.purpose } }">Defaults of its purpose</RouterLink>
    </PageHead>
    <Trouble :error="open.query.error.value ?? open.undo.error.value ?? release.error.value ?? other.query.error.value" />
    <template v-if="view">
      <div class="tools" :class="{ two: besideSpots.length > 1 }">
        <label>As it stands at <Choose v-model="spot" :options="places" /></label>
        <label v-if="besideSpots.length > 1"
          >and beside it at
          <Choose :model-value="besideAt" :options="besideSpots" @update:model-value="(at) => stay({ besideAt: at })"
        /></label>
        <label class="check"
          ><input type="checkbox" :checked="differing" @change="stay({ differs: differing ? undefined : '' })" />What differs
          alone</label
        >
        <InputText
          id="settings-search"
          v-model="words"
          type="search"
          placeholder="Search settings"
          aria-label="Search settings"
        />
      </div>
      <p v-for="q in view.quarrels" :key="q.text" class="quarrel" :class="{ stop: q.stop }">
        <strong>{{ q.stop ? 'Stop.' : 'Caution.' }}</strong> {{ q.text }}
        <button type="button" class="link-button" @click="show(q.key)">Open it</button>
      </p>
      <SettingsTable :view="view" :words="words" :only-differing="differing" :chosen="chosen" :beside="beside" @open="show" />
      <p class="soft foot">
        <span class="resin" aria-hidden="true">≠</span>
        {{
          beside
            ? 'differs between the two.'
            : 'differs from what its purpose says: that is struck through, ours stands beside it.'
        }}
        <Button
          v-if="beside"
          label="One alone"
          size="small"
          severity="secondary"
          text
          @click="stay({ beside: undefined, besideAt: undefined })"
        />
      </p>
      <SettingPanel
        v-if="setting"
        :setting="setting"
        :view="view"
        :busy="open.put.isPending.value"
        :error="open.put.error.value"
        @close="show()"
        @change="(c) => open.put.mutate({ changes: [c] })"
      />
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  align-items: center;
  margin-bottom: 12px;
}
.tools label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.tools :deep(select) {
  max-width: 280px;
}
.tools.two :deep(select) {
  max-width: 176px;
}
.check input {
  accent-color: var(--pine);
}
#settings-search {
  margin-left: auto;
  width: 220px;
}
.quarrel {
  margin: 0 0 8px;
  padding: 7px 10px;
  border-left: 3px solid var(--resin);
  background: var(--resin-tint);
}
.quarrel strong {
  color: var(--resin);
}
.quarrel.stop {
  border-color: var(--brick);
  background: var(--brick-tint);
}
.quarrel.stop strong {
  color: var(--brick);
}
.foot {
  margin-top: 10px;
}
</style>
