<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { useClipboard } from '@vueuse/core'
import Button from 'primevue/button'
import { computed } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'

/** A private address of the calendar, for calendars of others. */
const props = defineProps<{ school: number; subject: string; words: string }>()
defineEmits<{ close: [] }>()
const make = useMutation({
  mutationFn: () => call(api.POST('/calendar/feed', { body: { school: props.school, grade: '', subject: props.subject } })),
})
const address = computed(() => (make.data.value ? `${location.origin}${make.data.value.path}.ics` : ''))
const { copy, copied } = useClipboard()
</script>

<template>
  <SidePanel title="Subscribe as iCalendar" @close="$emit('close')">
    <p>These windows: {{ words }}. Whoever has the address sees titles and dates, no names.</p>
    <p class="soft">A new address ends the one that you had for the same windows. It is shown once.</p>
    <Button v-if="!address" label="Make an address" :loading="make.isPending.value" @click="make.mutate()" />
    <Trouble :error="make.error.value" />
    <template v-if="address">
      <label class="stack">Address <input class="p-inputtext p-component mono" :value="address" readonly /></label>
      <Button :label="copied ? 'Copied' : 'Copy'" size="small" @click="copy(address)" />
    </template>
  </SidePanel>
</template>
