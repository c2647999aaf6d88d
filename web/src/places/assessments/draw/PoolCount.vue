<script setup lang="ts">
import { plural } from '@/contract/format'
import type { Schemas } from '@/contract/client'

/** How many items a row can be filled from; near copies of one task count once beside it. */
defineProps<{ row: Schemas['DrawRow'] }>()
</script>

<template>
  {{ row.pool }}
  <small
    v-if="row.apart < row.pool"
    class="soft"
    :title="`${plural(row.pool, 'item')}, of which ${row.apart} differ in more than their numbers`"
    >({{ row.apart }} apart)</small
  >
</template>
