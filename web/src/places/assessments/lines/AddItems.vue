<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { kindName, plural, pValue } from '@/contract/format'
import * as bankQueries from '@/queries/bank'
import { useTray } from '@/places/bank/useTray'
import { carry } from './dragged'
import type { Sheet } from './lines'

/** Places items from the tray, or found here, before a line. The list stays in view. */
const props = defineProps<{ at: number; standard?: string; sheet: Sheet; place: (items: number[]) => Promise<boolean> }>()
const emit = defineEmits<{ close: [] }>()

const tray = useTray()
const words = ref('')
const settled = refDebounced(words, 200)
const near = ref(props.standard)
watch(
  () => props.standard,
  (now) => (near.value = now),
)

const standards = useQuery(bankQueries.frameworks)
const tree = useQuery({
  queryKey: ['standards-flat', computed(() => standards.data.value?.map((f) => f.id))],
  queryFn: async () =>
    (
      await Promise.all(
        (standards.data.value ?? []).map((f) => call(api.GET('/frameworks/{id}/standards', { params: { path: { id: f.id } } }))),
      )
    ).flat(),
  enabled: computed(() => !!standards.data.value),
  staleTime: 60_000,
})
const standardId = computed(() => tree.data.value?.find((s) => s.code === near.value)?.id)

const found = useQuery({
  queryKey: ['items-to-add', settled, standardId, computed(() => props.sheet.outline)],
  queryFn: () => {
    const { subject, grades } = props.sheet.outline
    return call(
      api.GET('/items', {
        params: {
          query: { words: settled.value || undefined, standard: standardId.value, subject: [subject], grade: grades, limit: 60 },
        },
      }),
    )
  },
  enabled: computed(() => !near.value || !!tree.data.value),
  placeholderData: keepPreviousData,
})
const lineOf = (id: number) => props.sheet.lines.findIndex((l) => l.itemId === id) + 1
const trayToPlace = computed(() => tray.items.value.filter((i) => !lineOf(i.id)))

async function placeTray() {
  const ids = trayToPlace.value.map((i) => i.id)
  if (await props.place(ids)) await tray.putBack.mutateAsync(tray.items.value.map((i) => i.id))
}
async function placeOne(id: number) {
  if (await props.place([id])) await tray.putBack.mutateAsync([id])
}
const where = computed(() => (props.at >= props.sheet.lines.length ? 'at the end' : `before line ${props.at + 1}`))
</script>

<template>
  <SidePanel :title="`Add items ${where}`" @close="emit('close')">
    <Trouble :error="tray.error.value ?? found.error.value" />
    <section v-if="tray.items.value.length">
      <h3>Your tray</h3>
      <p class="soft">
        {{ plural(tray.items.value.length, 'item')
        }}<template v-if="trayToPlace.length < tray.items.value.length"
          >, {{ tray.items.value.length - trayToPlace.length }} of them already here</template
        >
      </p>
      <Button
        :label="`Place ${plural(trayToPlace.length, 'item')}`"
        size="small"
        :disabled="!trayToPlace.length"
        @click="placeTray"
      />
      <p v-if="trayToPlace.length" class="soft">Or drag them onto the lines, one by one.</p>
      <ul class="tray">
        <li
          v-for="i in tray.items.value"
          :key="i.id"
          :draggable="!lineOf(i.id)"
          :class="{ movable: !lineOf(i.id) }"
          @dragstart="carry($event, [i.id])"
        >
          <span class="stem"
            >{{ i.stem }}
            <small class="soft"
              ><span class="mono">{{ i.standards[0] }}</span> · {{ i.bank }}</small
            ></span
          >
          <span v-if="lineOf(i.id)" class="soft">line {{ lineOf(i.id) }}</span>
          <Button
            v-else
            label="Place"
            size="small"
            severity="secondary"
            outlined
            :aria-label="`Place ${i.identifier}`"
            @click="placeOne(i.id)"
          />
        </li>
      </ul>
    </section>
    <section>
      <h3>From the bank</h3>
      <InputText v-model="words" placeholder="Words in stem and choices" aria-label="Words in stem and choices" fluid />
      <p v-if="near" class="soft">
        Fits <span class="mono">{{ near }}</span> and everything below it.
        <button type="button" class="link-button" @click="near = undefined">all of the grade</button>
      </p>
      <p class="soft">
        {{ plural(found.data.value?.total ?? 0, 'item') }}. <RouterLink to="/bank">Search with everything in the Bank</RouterLink>
      </p>
      <Empty
        v-if="found.data.value && !found.data.value.items.length"
        text="No item fits. Use other words, or look at all of the grade."
      />
      <ul>
        <li
          v-for="i in found.data.value?.items"
          :key="i.id"
          :draggable="!lineOf(i.id)"
          :class="{ movable: !lineOf(i.id) }"
          @dragstart="carry($event, [i.id])"
        >
          <span class="stem">
            {{ i.stem }}
            <small class="soft"
              ><span class="mono">{{ i.standards[0] }}</span> · {{ kindName(i.kind) }} · {{ pValue(i.difficulty)
              }}<template v-if="i.passage"> · {{ i.passage }}</template></small
            >
          </span>
          <span v-if="lineOf(i.id)" class="soft">line {{ lineOf(i.id) }}</span>
          <Button
            v-else
            label="Place"
            size="small"
            severity="secondary"
            outlined
            :aria-label="`Place ${i.identifier}`"
            @click="place([i.id])"
          />
        </li>
      </ul>
    </section>
  </SidePanel>
</template>

<style scoped>
section {
  margin-bottom: 18px;
}
h3 {
  margin-bottom: 4px;
}
p {
  margin: 6px 0;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
.movable {
  cursor: grab;
}
.tray {
  margin-top: 8px;
}
.stem {
  flex: 1;
  min-width: 0;
  max-height: 60px;
  overflow: hidden;
}
small {
  display: block;
}
</style>
