<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import InputText from 'primevue/inputtext'
import { computed, reactive } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import type { Matrix } from './matrix'

/** Who provides what in which section: names for people and rooms, "made" for paper. It keeps itself. */
const props = defineProps<{ matrix: Matrix; assessment: number; only?: string }>()
const emit = defineEmits<{ close: []; changed: [matrix: Matrix] }>()
type Place = Schemas['SupportPlace']
const places = computed(() => props.matrix.places.filter((p) => !props.only || p.key === props.only))
const paper = (p: Place) => props.matrix.columns.find((c) => c.key === p.key)?.by === 'paper'
const typed = reactive<Record<string, string>>({})
const keyOf = (p: Place) => `${p.key} ${p.sectionId}`
const put = useMutation({
  mutationFn: ({ place, provider, number }: { place: Place; provider: string; number: number }) =>
    call(
      api.PUT('/assessments/{id}/supports/{key}/provider', {
        params: { path: { id: props.assessment, key: place.key } },
        body: { section: place.sectionId, provider, number },
      }),
    ),
  onSuccess: (now) => emit('changed', now),
})
function keep(place: Place) {
  const provider = (typed[keyOf(place)] ?? place.provider).trim()
  if (provider !== place.provider) put.mutate({ place, provider, number: provider ? place.need : 0 })
}
</script>

<template>
  <SidePanel title="People and paper" width="max(560px, 44vw)" @close="emit('close')">
    <p class="soft">
      Name who provides it in each section; one name or several. For paper, say where it lies, such as “in the office”. It is kept
      as soon as you leave the field.
    </p>
    <Trouble :error="put.error.value ?? undefined" />
    <LedgerTable label="What each section needs" banded>
      <thead>
        <tr>
          <th>What</th>
          <th>Section</th>
          <th class="num">Need</th>
          <th class="double">Who, or where</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in places" :key="keyOf(p)">
          <td>{{ p.name }}</td>
          <td>
            {{ p.section }}<span class="soft block">{{ p.school }}</span>
          </td>
          <td class="num">{{ p.need }}</td>
          <td class="double">
            <InputText
              :model-value="typed[keyOf(p)] ?? p.provider"
              :placeholder="paper(p) ? 'not made yet' : 'nobody yet'"
              maxlength="120"
              fluid
              :aria-label="`${p.name}, ${p.section}, ${p.school}`"
              @update:model-value="typed[keyOf(p)] = $event ?? ''"
              @blur="keep(p)"
              @keydown.enter.prevent="keep(p)"
            />
          </td>
        </tr>
      </tbody>
    </LedgerTable>
  </SidePanel>
</template>

<style scoped>
.block {
  display: block;
}
td {
  padding-block: 3px;
}
</style>
