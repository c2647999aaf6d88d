<script setup lang="ts">
import { computed } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { t } from '@/words'

/** The last look before handing in: names what is not answered. */
const props = defineProps<{
  answered: boolean[]
  marked: boolean[]
  busy: boolean
  waiting?: boolean
  error?: Error
  /** What is open cannot be gone back to. */ fixed?: boolean
}>()
const emit = defineEmits<{ go: [line: number]; handIn: []; stayOn: [] }>()

const places = (list: boolean[], wanted: boolean) => list.flatMap((v, i) => (v === wanted ? [i + 1] : []))
const open = computed(() => places(props.answered, false))
const later = computed(() => places(props.marked, true))
</script>

<template>
  <main>
    <h1 tabindex="-1">{{ t('look.title') }}</h1>
    <Trouble :error="error" />
    <p v-if="!open.length">{{ t('look.all') }}</p>
    <template v-else>
      <p>
        <strong>{{ t('look.open', { n: open.length }, open.length) }}</strong>
        <template v-if="!fixed">{{ t('look.still') }}</template>
      </p>
      <p v-if="!fixed" class="cells">
        <button
          v-for="n in open"
          :key="n"
          type="button"
          class="quiet"
          :aria-label="t('look.goOpen', { n })"
          @click="emit('go', n)"
        >
          {{ n }}
        </button>
      </p>
    </template>
    <template v-if="later.length && !fixed">
      <p>{{ t('look.marked') }}</p>
      <p class="cells">
        <button
          v-for="n in later"
          :key="n"
          type="button"
          class="quiet"
          :aria-label="t('look.goMarked', { n })"
          @click="emit('go', n)"
        >
          {{ n }}
        </button>
      </p>
    </template>
    <template v-if="waiting">
      <p role="status">
        {{ t('look.waiting') }}
      </p>
      <button type="button" class="quiet" @click="emit('stayOn')">{{ t('look.stay') }}</button>
    </template>
    <p v-else>{{ t('look.final') }}</p>
    <button v-if="!waiting" type="button" class="main" :disabled="busy" @click="emit('handIn')">
      {{ open.length ? t('look.handInOpen', { n: open.length }) : t('look.handIn') }}
    </button>
  </main>
</template>

<style scoped>
main {
  width: min(680px, 100%);
  margin: 0 auto;
  padding: 36px 20px;
  overflow: auto;
}
h1 {
  font-family: var(--reading);
  margin-bottom: 12px;
}
.cells {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.cells button {
  min-width: 48px;
  justify-content: center;
  padding: 0 8px !important;
}
</style>
