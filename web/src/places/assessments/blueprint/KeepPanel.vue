<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { moment, plural } from '@/contract/format'
import { api, call, queries } from '@/contract/client'
import { libraryKey } from './library'
import type { Sheet } from '@/places/assessments/lines/lines'

/** Puts the rows of a blueprint into the library under a name, in the place of one of the same name when that is wanted. */
const props = defineProps<{ sheet: Sheet }>()
const emit = defineEmits<{ close: [] }>()
const title = ref(props.sheet.outline.title)
const settled = refDebounced(title, 180)
const found = useQuery({
  queryKey: [...libraryKey, settled, ''],
  queryFn: () => call(api.GET('/blueprints', { params: { query: { words: settled.value } } })),
})
const taken = computed(() => found.data.value?.find((b) => b.own && b.title === title.value.trim()))
const keep = useMutation({
  mutationFn: () =>
    call(
      api.POST('/blueprints', {
        body: { assessmentId: props.sheet.id, title: title.value, ...(taken.value ? { replace: taken.value.version } : {}) },
      }),
    ),
  onSuccess: () => emit('close'),
  onSettled: () => queries.invalidateQueries({ queryKey: libraryKey }),
})
</script>

<template>
  <SidePanel title="Save to library" @close="emit('close')">
    <form @submit.prevent="keep.mutate()">
      <p class="soft">
        {{ plural(sheet.rows.length, 'row') }} of this blueprint, as they are now. Whoever makes a blueprint can take a copy of
        them; a later change here or there does not come along.
      </p>
      <Trouble :error="keep.error.value" />
      <label class="stack">Name in the library <InputText v-model="title" maxlength="120" autofocus /></label>
      <Note v-if="taken">
        {{ taken.changedBy }} kept {{ plural(taken.rows, 'row') }} under this name, {{ moment(taken.changedAt) }}.
        {{ taken.mayChange ? 'Keeping these replaces them.' : 'Choose another name.' }}
      </Note>
    </form>
    <template #footer>
      <Button
        :label="taken?.mayChange ? 'Replace it' : 'Save'"
        :disabled="!title.trim() || taken?.mayChange === false"
        :loading="keep.isPending.value"
        @click="keep.mutate()"
      />
    </template>
  </SidePanel>
</template>

<style scoped>
.stack {
  display: grid;
  gap: 4px;
  margin-bottom: 12px;
}
</style>
