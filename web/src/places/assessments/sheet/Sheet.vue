<script setup lang="ts">
import { computed, provide } from 'vue'
import { useRoute } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import { useSession } from '@/contract/session'
import Blueprint from '@/places/assessments/blueprint/Blueprint.vue'
import Cuts from '@/places/assessments/cuts/Cuts.vue'
import Supports from '@/places/assessments/supports/Supports.vue'
import Distribution from '@/places/assessments/distribution/Distribution.vue'
import KeyEntry from '@/places/assessments/key/KeyEntry.vue'
import Lines from '@/places/assessments/lines/Lines.vue'
import OutlinePart from '@/places/assessments/outline/OutlinePart.vue'
import Rooms from '@/places/assessments/rooms/Rooms.vue'
import Settings from '@/places/assessments/settings/Settings.vue'
import Spine from './Spine.vue'
import { openSheetKey } from './open'
import { usePresence } from './usePresence'
import { useSheet } from './useSheet'

const route = useRoute()
const id = computed(() => Number(route.params.id))
const open = useSheet(id)
const { may } = useSession()
provide(openSheetKey, open)

const parts = {
  outline: OutlinePart,
  blueprint: Blueprint,
  lines: Lines,
  key: KeyEntry,
  cuts: Cuts,
  settings: Settings,
  supports: Supports,
  distribution: Distribution,
  rooms: Rooms,
}
const part = computed(() => (route.params.part || 'lines') as keyof typeof parts)
const sheet = open.sheet
const others = usePresence(
  id,
  computed(() => part.value),
)
const results = computed(() => sheet.value?.sittings.at(-1)?.distributionId)
useCrumb(() => sheet.value?.outline.title)
</script>

<template>
  <Trouble v-if="open.query.error.value" :error="open.query.error.value" />
  <div v-if="sheet" class="sheet">
    <Spine :sheet="sheet" :part="part === 'key' ? 'lines' : part" :results="results" :others="others" :builds="may('build')" />
    <component :is="parts[part]" :key="`${sheet.id}-${part}`" />
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr);
  height: 100%;
}
@media (max-width: 860px) {
  .sheet {
    grid-template: auto auto / minmax(0, 1fr);
    height: auto;
  }
}
</style>
