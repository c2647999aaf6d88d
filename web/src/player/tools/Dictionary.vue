<script setup lang="ts">
import { computed, ref } from 'vue'
import { meanings } from './dictionary'
import Pane from './Pane.vue'
import { t } from '@/words'

/** A small dictionary for school. What begins with the letters typed is found first. */
const emit = defineEmits<{ close: [] }>()
const words = ref('')
const most = 12
const found = computed(() => {
  const typed = words.value.trim().toLowerCase()
  if (!typed) return []
  const begins = meanings.filter(([word]) => word.startsWith(typed))
  const holds = meanings.filter(([word]) => !word.startsWith(typed) && word.includes(typed))
  return [...begins, ...holds].slice(0, most)
})
</script>

<template>
  <Pane :title="t('tools.dictionary')" @close="emit('close')">
    <label>
      {{ t('tools.lookUp') }}
      <input v-model="words" autofocus type="search" maxlength="40" autocomplete="off" spellcheck="false" />
    </label>
    <p class="out-of-sight" role="status">{{ words.trim() ? t('tools.found', { n: found.length }, found.length) : '' }}</p>
    <dl lang="en">
      <template v-for="[word, kind, meaning] in found" :key="word + kind">
        <dt>
          {{ word }} <em>{{ kind }}</em>
        </dt>
        <dd>{{ meaning }}</dd>
      </template>
    </dl>
    <p v-if="words.trim() && !found.length" class="none">{{ t('tools.notFound') }}</p>
  </Pane>
</template>

<style scoped>
label {
  display: grid;
  gap: 4px;
}
input {
  min-height: 44px;
  padding: 0 10px;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
}
dl {
  margin: 10px 0 0;
}
dt {
  font-weight: 700;
}
dt em {
  font-weight: 400;
  color: var(--ink-soft);
}
dd {
  margin: 0 0 8px;
}
.none {
  margin: 10px 0 0;
}
</style>
