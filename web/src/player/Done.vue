<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { t } from '@/words'
import OwnFeedback from './OwnFeedback.vue'

/** Handed in: what came of it, what may be seen of it now, and whether it may be done once more. */
const props = defineProps<{
  take: Schemas['Take']
  sitting: number
  /** What a try or practice came to, which nobody keeps; 'asked' is one's own work on the server. */
  told: Schemas['OwnFeedback'] | 'asked' | undefined
  trial: boolean
  practice: boolean
  offered: number
  late: number
  busy: boolean
}>()
const emit = defineEmits<{ leave: []; back: []; again: [] }>()
const query = useQuery({
  queryKey: computed(() => ['feedback', props.sitting]),
  queryFn: () => call(api.GET('/my/sittings/{id}/feedback', { params: { path: { id: props.sitting } } })),
  enabled: () => props.told === 'asked',
  staleTime: 0,
})
const feedback = computed(() => (props.told === 'asked' ? query.data.value : props.told))
</script>

<template>
  <main class="one">
    <h1 tabindex="-1">{{ t(practice ? 'done.practiced' : 'done.title') }}</h1>
    <p v-if="trial">{{ t('trial.done') }}</p>
    <p v-else-if="practice">{{ t('done.practice') }}</p>
    <p v-else-if="offered" role="status">{{ t('done.offered', { title: take.title, n: offered }, offered) }}</p>
    <p v-else-if="late" role="alert">
      {{ t('done.late', { title: take.title, n: late }, late) }}
    </p>
    <p v-else>{{ t('done.saved', { title: take.title }) }}</p>
    <div class="ways">
      <button v-if="take.mayRetake" type="button" class="quiet" :disabled="busy" @click="emit('again')">
        {{ t('done.again', { n: take.try + 1, of: take.how.tries }) }}
      </button>
      <button v-if="!trial && !practice" type="button" class="main" @click="emit('leave')">{{ t('signOut') }}</button>
      <button type="button" :class="trial || practice ? 'main' : 'quiet'" @click="emit('back')">
        {{ t(trial ? 'trial.back' : 'backToMine') }}
      </button>
    </div>
    <OwnFeedback v-if="feedback" :feedback="feedback" />
    <Trouble :error="query.error.value" />
  </main>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
</style>
