<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, watch } from 'vue'
import { api, call, queries } from '@/contract/client'
import { moment, plural } from '@/contract/format'
import { useSession } from '@/contract/session'

/** Puts the items of a subject on one scale, by all answers so far; says how far it is, and how it ended. */
const props = defineProps<{ subject: string }>()
const emit = defineEmits<{ done: [] }>()
const { session } = useSession()
/** The scale is the whole district's. */
const may = computed(() => session.value?.roles.includes('district-coordinator') ?? false)
const key = ['calibration', computed(() => props.subject)]
const query = useQuery({
  queryKey: key,
  queryFn: () => call(api.GET('/calibrations', { params: { query: { subject: props.subject } } })),
  refetchInterval: (q) => (q.state.data?.state === 'running' ? 700 : false),
})
const c = computed(() => query.data.value)
const begin = useMutation({
  mutationFn: () => call(api.POST('/calibrations', { body: { subject: props.subject } })),
  onSuccess: (now) => {
    queries.setQueryData(['calibration', props.subject], now)
    if (now.state === 'done') emit('done')
  },
})
const cancel = useMutation({
  mutationFn: () => call(api.DELETE('/calibrations/{id}', { params: { path: { id: c.value!.id } } })),
  onSuccess: (now) => queries.setQueryData(['calibration', props.subject], now),
})
watch(
  () => c.value?.state,
  (now, before) => before === 'running' && now === 'done' && emit('done'),
)
const error = computed(() => begin.error.value?.message ?? cancel.error.value?.message)
</script>

<template>
  <span v-if="c" role="status">
    <template v-if="c.state === 'running'">
      Calibrating, {{ c.read.toLocaleString('en-US') }} of {{ plural(c.of, 'attempt') }} read.
      <button type="button" class="link-button" @click="cancel.mutate()">Cancel</button>
    </template>
    <template v-else>
      <template v-if="c.state === 'done' && c.endedAt"
        >Calibrated {{ moment(c.endedAt) }} by {{ c.by }} from {{ plural(c.attempts, 'attempt') }}, {{ plural(c.items, 'item')
        }}{{ c.drifted ? `, ${c.drifted} harder or easier than last year` : '' }}.
      </template>
      <template v-else-if="c.state === 'failed'"><span class="resin">Not calibrated.</span> {{ c.why }} </template>
      <template v-else-if="c.state === 'cancelled'">The last calibration was cancelled. </template>
      <button v-if="may" type="button" class="link-button" :disabled="begin.isPending.value" @click="begin.mutate()">
        {{ c.state === 'done' ? 'Calibrate again' : 'Calibrate the items of this subject' }}
      </button>
    </template>
  </span>
  <span v-if="error" class="brick" role="alert"> {{ error }}</span>
</template>
