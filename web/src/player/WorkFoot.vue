<script setup lang="ts">
import { IconArrowLeft, IconArrowRight } from '@tabler/icons-vue'
import { t } from '@/words'
import MarksStrip from './MarksStrip.vue'

/** The foot of the page: the strip of items, what is saved, and where one can go from here. */
defineProps<{
  answered: boolean[]
  marked: boolean[]
  starts: boolean[]
  at: number
  lookingOver: boolean
  forwardOnly: boolean
  status: string
  busy: boolean
}>()
const emit = defineEmits<{ go: [line: number]; look: [] }>()
</script>

<template>
  <footer>
    <MarksStrip
      :answered="answered"
      :marked="marked"
      :starts="starts"
      :at="lookingOver ? 0 : at"
      :fixed="forwardOnly"
      @go="emit('go', $event)"
    />
    <div class="moves">
      <button
        v-if="!forwardOnly"
        type="button"
        class="quiet"
        :disabled="(!lookingOver && at <= 1) || busy"
        @click="emit('go', lookingOver ? answered.length : at - 1)"
      >
        <IconArrowLeft :size="18" aria-hidden="true" />{{ t('back') }}
      </button>
      <p role="status">{{ status }}</p>
      <button
        v-if="!lookingOver && (!forwardOnly || at >= answered.length)"
        type="button"
        :class="at < answered.length ? 'quiet' : 'main'"
        :disabled="busy"
        @click="emit('look')"
      >
        {{ t('work.lookOver') }}
      </button>
      <button v-if="!lookingOver && at < answered.length" type="button" class="main" :disabled="busy" @click="emit('go', at + 1)">
        {{ t('work.next') }}<IconArrowRight :size="18" aria-hidden="true" />
      </button>
    </div>
  </footer>
</template>

<style scoped>
footer {
  grid-row: 7;
  position: relative;
  z-index: 6; /* over the line reader */
  border-top: 1px solid var(--rule);
  background: var(--board);
  padding: 12px 28px 14px;
}
.moves {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-top: 10px;
}
.moves p {
  flex: 1;
  text-align: center;
  margin: 0;
  color: var(--ink-soft);
  font-size: 15px;
}
@media (max-width: 800px) {
  footer {
    padding: 10px 12px;
  }
  .moves {
    flex-wrap: wrap;
    gap: 8px;
    justify-content: space-between;
  }
  .moves p {
    order: -1;
    flex-basis: 100%;
  }
  .moves button {
    padding: 0 12px;
  }
  .moves svg {
    display: none;
  }
}
/* At 400 % hardly more than an item fits: the bars scroll away. */
@media (max-height: 480px) {
  footer nav {
    max-width: 100%;
  }
}
</style>
