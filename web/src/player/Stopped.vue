<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/contract/client'
import { t, te } from '@/words'

/** Work cannot go on now: why, in the student's language where the reason is a known one, and what brings it back. */
const props = defineProps<{ take: Schemas['Take']; stopped: string }>()
const emit = defineEmits<{ rested: []; back: [] }>()
const why = computed(() => {
  const key = `stopped.${props.take.stoppedBy}`
  return props.take.stoppedBy && te(key, 'en') ? t(key) : props.stopped
})
</script>

<template>
  <main class="one">
    <h1 tabindex="-1">{{ t('stopped.title') }}</h1>
    <p role="status">{{ why }}</p>
    <p>{{ t(['resting', 'outside hours'].includes(take.stoppedBy) ? 'stopped.returns' : 'stopped.reopens') }}</p>
    <button v-if="take.stoppedBy === 'resting'" type="button" class="main" @click="emit('rested')">
      {{ t('stopped.rested') }}
    </button>
    <button type="button" class="quiet" @click="emit('back')">{{ t('backToMine') }}</button>
  </main>
</template>
