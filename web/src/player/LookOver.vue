<script setup lang="ts">
import { computed } from 'vue'
import Trouble from '@/parts/Trouble.vue'

/** The last look before handing in: names what is not answered. */
const props = defineProps<{ answered: boolean[]; marked: boolean[]; busy: boolean; waiting?: boolean; error?: Error }>()
const emit = defineEmits<{ go: [line: number]; handIn: []; stayOn: [] }>()

const places = (list: boolean[], wanted: boolean) => list.flatMap((v, i) => (v === wanted ? [i + 1] : []))
const open = computed(() => places(props.answered, false))
const later = computed(() => places(props.marked, true))
</script>

<template>
  <main>
    <h1 tabindex="-1">Look over</h1>
    <Trouble :error="error" />
    <p v-if="!open.length">Every item is answered.</p>
    <template v-else>
      <p>
        <strong>{{ open.length === 1 ? 'One item is not answered.' : `${open.length} items are not answered.` }}</strong> You can
        still answer them:
      </p>
      <p class="cells">
        <button
          v-for="n in open"
          :key="n"
          type="button"
          class="quiet"
          :aria-label="`Go to item ${n}, not answered`"
          @click="emit('go', n)"
        >
          {{ n }}
        </button>
      </p>
    </template>
    <template v-if="later.length">
      <p>You marked for later:</p>
      <p class="cells">
        <button
          v-for="n in later"
          :key="n"
          type="button"
          class="quiet"
          :aria-label="`Go to item ${n}, marked for later`"
          @click="emit('go', n)"
        >
          {{ n }}
        </button>
      </p>
    </template>
    <template v-if="waiting">
      <p role="status">
        You are not connected right now. Your work will be handed in by itself when you are. Please keep this page open.
      </p>
      <button type="button" class="quiet" @click="emit('stayOn')">Keep working instead</button>
    </template>
    <p v-else>After you hand in, you cannot change your answers.</p>
    <button v-if="!waiting" type="button" class="main" :disabled="busy" @click="emit('handIn')">
      {{ open.length ? `Hand in with ${open.length} not answered` : 'Hand in' }}
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
