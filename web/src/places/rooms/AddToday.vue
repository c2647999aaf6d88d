<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, ref, watch } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import SupportField from '@/places/profiles/SupportField.vue'
import { beginning, grouped } from '@/places/profiles/profiles'
import * as supportQueries from '@/queries/supports'

/** A support for this sitting alone, with its reason. The student has it at once. */
const props = defineProps<{ sitting: number; seat: Schemas['RoomSeat'] }>()
const emit = defineEmits<{ close: []; added: [room: Schemas['Room']] }>()
const catalog = useQuery(supportQueries.catalog)
const key = ref('extraMinutes')
const support = computed(() => catalog.data.value?.find((s) => s.key === key.value))
const value = ref<unknown>()
watch(support, (s) => s && (value.value = beginning(s)), { immediate: true })
const reason = ref('')
const add = useMutation({
  mutationFn: () =>
    call(
      api.POST('/sittings/{id}/students/{student}/supports', {
        params: { path: { id: props.sitting, student: props.seat.studentId } },
        body: { key: key.value, value: value.value, reason: reason.value },
      }),
    ),
  onSuccess: (room) => emit('added', room),
})
</script>

<template>
  <SidePanel :title="`A support for ${seat.name}`" @close="emit('close')">
    <form @submit.prevent="add.mutate()">
      <label for="today-key">Support, for this sitting alone</label>
      <select id="today-key" v-model="key">
        <optgroup v-for="[group, list] in grouped(catalog.data.value ?? [])" :key="group" :label="group">
          <option v-for="s in list.filter((s) => s.key !== 'other')" :key="s.key" :value="s.key">{{ s.name }}</option>
        </optgroup>
      </select>
      <p v-if="support" class="soft">{{ support.does }}</p>
      <SupportField v-if="support" v-model="value" :support="support" />
      <label for="today-reason">Why</label>
      <Textarea id="today-reason" v-model="reason" rows="3" fluid maxlength="500" />
      <Trouble :error="add.error.value ?? undefined" />
      <Button type="submit" label="Add it" :loading="add.isPending.value" />
    </form>
  </SidePanel>
</template>

<style scoped>
label {
  display: block;
  font-weight: 600;
  margin-top: 8px;
}
button {
  margin-top: 10px;
}
</style>
