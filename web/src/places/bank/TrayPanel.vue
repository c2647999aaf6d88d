<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import Empty from '@/parts/Empty.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { plural } from '@/contract/format'
import * as assessmentQueries from '@/queries/assess'
import { addToEnd, readSheet, sheetKey } from '@/places/assessments/lines/lines'
import { useTray } from './useTray'

const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const tray = useTray()
const drafts = useQuery(assessmentQueries.assessments())
const open = computed(() => (drafts.data.value ?? []).filter((a) => a.state === 'draft'))
const target = ref<number>()

/** The chosen draft as it is, to say what is on it already. */
const sheet = useQuery({
  queryKey: computed(() => sheetKey(target.value ?? 0)),
  queryFn: () => readSheet(target.value!),
  enabled: computed(() => !!target.value),
})
const lineOf = (id: number) => (target.value ? (sheet.data.value?.lines ?? []).findIndex((l) => l.itemId === id) + 1 : 0)
const toPlace = computed(() => tray.items.value.filter((i) => !lineOf(i.id)).map((i) => i.id))

const place = useMutation({
  mutationFn: async (to: number) => {
    if (toPlace.value.length) await addToEnd(to, toPlace.value)
    await tray.putBack.mutateAsync(tray.items.value.map((i) => i.id))
  },
  onSuccess: async (_, to) => {
    await router.push(`/assessments/${to}/lines`)
    emit('close')
  },
})
</script>

<template>
  <SidePanel :title="`Tray, ${plural(tray.items.value.length, 'item')}`" @close="emit('close')">
    <Empty
      v-if="!tray.items.value.length"
      text="The tray holds the items you pick until you place them on an assessment. Pick with the box before an item, or with the key p."
    />
    <p v-if="tray.items.value.length">
      <a :href="`/api/item-package.zip?${tray.items.value.map((i) => `items=${i.id}`).join('&')}`" download="tray.zip"
        >export these as QTI 3.0</a
      >
    </p>
    <ol v-if="tray.items.value.length">
      <li v-for="i in tray.items.value" :key="i.id">
        <span class="stem">
          {{ i.stem }}
          <small class="soft"
            ><span class="mono">{{ i.standards[0] }}</span> · {{ i.bank
            }}<template v-if="lineOf(i.id)"> · already line {{ lineOf(i.id) }}</template></small
          >
        </span>
        <button
          type="button"
          class="link-button"
          :aria-label="`Remove ${i.identifier} from the tray`"
          @click="tray.putBack.mutate([i.id])"
        >
          remove
        </button>
      </li>
    </ol>
    <template v-if="tray.items.value.length" #footer>
      <Trouble :error="place.error.value" />
      <p v-if="target && toPlace.length < tray.items.value.length" class="soft" role="status">
        {{ plural(tray.items.value.length - toPlace.length, 'item') }} of these
        {{ tray.items.value.length - toPlace.length === 1 ? 'is' : 'are' }} on it already and will not be placed twice.
      </p>
      <div class="row">
        <Choose
          v-model="target"
          :options="open.map((a) => ({ value: a.id, label: a.title }))"
          placeholder="Which draft?"
          aria-label="Which draft"
        />
        <Button
          :label="`Place ${plural(toPlace.length, 'item')}`"
          :disabled="!target || !sheet.data.value"
          :loading="place.isPending.value"
          @click="place.mutate(target!)"
        />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
ol {
  padding: 0;
  margin: 0;
  list-style: none;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  border-bottom: 1px solid var(--rule);
}
.stem {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
small {
  display: block;
}
</style>
