<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import BulkPanel from './BulkPanel.vue'
import HoldPanel from './HoldPanel.vue'
import TagPanel from './TagPanel.vue'
import { searchParams, useBankQuery } from './useBankQuery'
import type { useMarked } from './useMarked'
import { useTray } from './useTray'

/** What can be done with the marked items at once. */
const props = defineProps<{ marks: ReturnType<typeof useMarked>; items: Schemas['Item'][]; total: number }>()
const emit = defineEmits<{ done: [] }>()
const { may } = useSession()
const { query } = useBankQuery()
const tray = useTray()
const panel = ref<'tag' | 'hold' | 'change'>()
const ids = computed(() => props.marks.ids.value)
const held = computed(() => props.items.filter((i) => i.held && props.marks.marked.value.has(i.id)).map((i) => i.id))

const all = useMutation({
  mutationFn: () => call(api.GET('/item-ids', { params: { query: { ...searchParams(query.value), sort: undefined } } })),
  onSuccess: (found) => props.marks.set(found.ids),
})
const letGo = useMutation({
  mutationFn: () => call(api.DELETE('/item-holds', { params: { query: { items: held.value } } })),
  onSuccess: () => emit('done'),
})
function done() {
  panel.value = undefined
  emit('done')
}
</script>

<template>
  <div class="marked" role="group" aria-label="Marked items">
    <strong aria-live="polite">{{ ids.length }} marked</strong>
    <button v-if="ids.length < total" type="button" class="link-button" @click="all.mutate()">
      Select all {{ Math.min(total, 5000) }} found
    </button>
    <button type="button" class="link-button" @click="marks.clear()">none</button>
    <span class="acts">
      <Button label="Tag" size="small" severity="secondary" outlined @click="panel = 'tag'" />
      <template v-if="may('build')">
        <Button label="Change" size="small" severity="secondary" outlined @click="panel = 'change'" />
        <Button label="Hold" size="small" severity="secondary" outlined @click="panel = 'hold'" />
        <Button
          v-if="held.length"
          :label="`Release ${held.length}`"
          size="small"
          severity="secondary"
          outlined
          @click="letGo.mutate()"
        />
        <Button
          label="Add to the tray"
          size="small"
          severity="secondary"
          outlined
          :disabled="ids.length > 200"
          @click="tray.pick.mutate(ids, { onSuccess: () => marks.clear() })"
        />
      </template>
    </span>
    <Trouble :error="all.error.value ?? letGo.error.value ?? tray.error.value" />
    <TagPanel v-if="panel === 'tag'" :items="ids" :shown="items" @close="panel = undefined" @done="done" />
    <BulkPanel v-if="panel === 'change'" :items="ids" @close="panel = undefined" @done="done" />
    <HoldPanel v-if="panel === 'hold'" :items="ids" :title="plural(ids.length, 'item')" @close="panel = undefined" @done="done" />
  </div>
</template>

<style scoped>
.marked {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  margin: 6px 0;
  padding: 0 8px;
  min-height: 30px;
  background: var(--tint-strong);
}
.acts {
  display: flex;
  gap: 6px;
  margin-left: auto;
}
</style>
