<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import * as assessmentQueries from '@/queries/assess'

/** Reserves items for an assessment, or for oneself until a day. */
const props = defineProps<{ items: number[]; title: string }>()
const emit = defineEmits<{ close: []; done: [] }>()

const drafts = useQuery(assessmentQueries.assessments())
const open = computed(() => (drafts.data.value ?? []).filter((a) => a.state === 'draft' || a.state === 'sealed'))
const assessment = ref<number>()
const until = ref('')
const reason = ref('')

const hold = useMutation({
  mutationFn: () =>
    call(
      api.POST('/item-holds', {
        body: { items: props.items, assessmentId: assessment.value, until: until.value, reason: reason.value },
      }),
    ),
  onSuccess: async () => {
    await Promise.all(['items', 'item', 'item-holds', 'tray'].map((k) => queries.invalidateQueries({ queryKey: [k] })))
    emit('done')
  },
})
</script>

<template>
  <SidePanel :title="`Hold ${title}`" @close="emit('close')">
    <form id="hold" @submit.prevent="hold.mutate()">
      <p class="soft">
        What is on hold is offered to nobody else: not in search, tray, draw or copy. Those who keep the bank or work on the
        assessment still see it, as held.
      </p>
      <label class="stack"
        >For the assessment
        <select v-model="assessment">
          <option :value="undefined">none, for myself</option>
          <option v-for="a in open" :key="a.id" :value="a.id">{{ a.title }}</option>
        </select>
      </label>
      <label class="stack"
        >Until the end of
        <input v-model="until" type="date" :required="!assessment" />
      </label>
      <p class="soft">
        {{ assessment ? 'Without a day it stays on hold until it is released.' : 'A hold for yourself needs a last day.' }}
      </p>
      <label class="stack"
        >Why
        <input v-model="reason" class="p-inputtext p-component" maxlength="300" />
      </label>
    </form>
    <template #footer>
      <Trouble :error="hold.error.value" />
      <Button type="submit" form="hold" :label="`Hold ${title}`" :loading="hold.isPending.value" />
    </template>
  </SidePanel>
</template>
