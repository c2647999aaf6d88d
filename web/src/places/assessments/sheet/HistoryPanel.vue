<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { moment, plural } from '@/contract/format'
import { api, call } from '@/contract/client'
import { useOpenSheet } from './open'

/** What was done to an assessment, by whom and when; an earlier state of a part comes back as a new one. */
const emit = defineEmits<{ close: [] }>()
const { sheet, editable, error, restore } = useOpenSheet()
const list = useQuery({
  queryKey: ['history', computed(() => sheet.value.id), computed(() => sheet.value.version)],
  queryFn: () => call(api.GET('/assessments/{id}/history', { params: { path: { id: sheet.value.id } } })),
})
const editions = useQuery({
  queryKey: ['editions', computed(() => sheet.value.id), computed(() => sheet.value.version)],
  queryFn: () => call(api.GET('/assessments/{id}/editions', { params: { path: { id: sheet.value.id } } })),
})
const said = ref('')
async function bring(number: number, part: string) {
  if (await restore(number)) said.value = `The ${part} stand as they did then. What came after is in the history still.`
}
</script>

<template>
  <SidePanel title="History" @close="emit('close')">
    <Trouble :error="list.error.value ?? error" />
    <p v-if="said" role="status">{{ said }}</p>
    <template v-if="editions.data.value?.length">
      <h3>Editions</h3>
      <ul>
        <li v-for="e in editions.data.value" :key="e.edition" class="edition">
          <strong>Edition {{ e.edition }}</strong>
          <span class="soft"
            >sealed {{ moment(e.sealedAt) }}, {{ plural(e.lines, 'line') }}, {{ plural(e.total, 'point') }},
            <span class="mono" :title="e.fingerprint">{{ e.fingerprint.slice(0, 12) }}</span></span
          >
          <ul v-if="e.changes.length" :aria-label="`What changed in edition ${e.edition}`">
            <li v-for="c in e.changes" :key="c">{{ c }}</li>
          </ul>
        </li>
      </ul>
      <h3>Everything</h3>
    </template>
    <ol>
      <li v-for="h in list.data.value" :key="h.number">
        <span
          ><strong>{{ h.who }}</strong> {{ h.did }} {{ h.title }} <small class="soft">{{ moment(h.at) }}</small></span
        >
        <Button
          v-if="editable && h.restores"
          label="Restore"
          size="small"
          severity="secondary"
          outlined
          :aria-label="`Restore the ${h.restores} of ${moment(h.at)}`"
          @click="bring(h.number, h.restores)"
        />
      </li>
    </ol>
  </SidePanel>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1.5px solid var(--ink);
}
ul {
  margin: 0 0 14px;
  padding: 0;
  list-style: none;
}
.edition {
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
.edition > span {
  display: block;
}
.edition ul {
  list-style: disc;
  margin: 4px 0 0;
  padding-left: 20px;
}
ol li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
ol :deep(button) {
  flex-shrink: 0;
}
small {
  display: block;
}
</style>
