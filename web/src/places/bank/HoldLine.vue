<script setup lang="ts">
import Note from '@/parts/Note.vue'
import type { Schemas } from '@/contract/client'
import { day } from '@/contract/format'

/** That an item is on hold, for what, by whom, until when. */
const props = defineProps<{ hold: Schemas['Hold'] }>()

/** until is the moment when the last day ends. */
const lastDay = () => day(new Date(new Date(props.hold.until!).getTime() - 1).toISOString())
</script>

<template>
  <Note>
    On hold {{ hold.assessment ? `for ${hold.assessment}` : `for ${hold.person}` }}{{ hold.until ? `, until ${lastDay()}` : ''
    }}<template v-if="hold.assessment">, set by {{ hold.person }}</template
    >.<template v-if="hold.reason"> {{ hold.reason }}</template>
  </Note>
</template>
