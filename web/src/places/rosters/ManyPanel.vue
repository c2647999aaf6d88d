<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { queries } from '@/contract/client'
import { plural } from '@/contract/format'
import * as supportQueries from '@/queries/supports'
import EntryForm from '@/places/profiles/EntryForm.vue'

/** One support for several students at once: all of them get it, or none. */
const props = defineProps<{ students: number[] }>()
const emit = defineEmits<{ close: []; done: [] }>()
/** The district's grounds and subjects come with any profile. */
const first = useQuery(supportQueries.profile(computed(() => props.students[0]!)))
async function done() {
  await queries.invalidateQueries({ queryKey: ['profile'] })
  emit('done')
}
</script>

<template>
  <SidePanel :title="`A support for ${plural(students.length, 'student')}`" width="max(460px, 36vw)" @close="emit('close')">
    <Trouble :error="first.error.value ?? undefined" />
    <EntryForm
      v-if="first.data.value"
      :students="students"
      :grounds="first.data.value.grounds"
      :known="first.data.value.subjects"
      @done="done"
      @cancel="emit('close')"
    />
  </SidePanel>
</template>
