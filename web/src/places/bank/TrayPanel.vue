<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural } from '@/contract/format'
import { addToEnd } from '@/places/assessments/lines'
import { useTray } from './useTray'

const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const tray = useTray()
const drafts = useQuery({
  queryKey: ['assessments', ''],
  queryFn: () => call(api.GET('/assessments', { params: { query: {} } })),
})
const open = computed(() => (drafts.data.value ?? []).filter((a) => a.state === 'draft'))
const target = ref<number>()
const error = ref<Error>()
const busy = ref(false)

async function place() {
  if (!target.value) return
  busy.value = true
  error.value = undefined
  try {
    await addToEnd(
      target.value,
      tray.items.value.map((i) => i.id),
    )
    await tray.putBack.mutateAsync(tray.items.value.map((i) => i.id))
    await router.push(`/assessments/${target.value}/lines`)
    emit('close')
  } catch (e) {
    error.value = e as Error
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <SidePanel :title="`Tray, ${plural(tray.items.value.length, 'item')}`" @close="emit('close')">
    <Empty
      v-if="!tray.items.value.length"
      text="The tray holds the items you pick until you place them on an assessment. Pick with the box before an item, or with the key p."
    />
    <p v-if="tray.items.value.length">
      <a :href="`/api/item-package.zip?${tray.items.value.map((i) => `items=${i.id}`).join('&')}`" download="tray.zip"
        >bring these out as QTI 3.0</a
      >
    </p>
    <ol v-if="tray.items.value.length">
      <li v-for="i in tray.items.value" :key="i.id">
        <span class="stem">{{ i.stem }}</span>
        <span class="mono">{{ i.standards[0] }}</span>
        <button type="button" class="link-button" :aria-label="`Put back ${i.identifier}`" @click="tray.putBack.mutate([i.id])">
          put back
        </button>
      </li>
    </ol>
    <template v-if="tray.items.value.length" #footer>
      <Trouble :error="error" />
      <div class="row">
        <Select
          v-model="target"
          :options="open"
          option-label="title"
          option-value="id"
          placeholder="Which draft?"
          aria-label="Which draft"
          fluid
        />
        <Button :label="`Place ${plural(tray.items.value.length, 'item')}`" :disabled="!target" :loading="busy" @click="place" />
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
  min-height: 34px;
  border-bottom: 1px solid var(--rule);
}
.stem {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
