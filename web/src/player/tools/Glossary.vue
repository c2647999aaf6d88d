<script setup lang="ts">
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { languageInItself } from '@/contract/format'
import Pane from './Pane.vue'
import { t } from '@/words'

/** The hard words of an item with what they mean, in each language that there is. */
const props = defineProps<{ shown: Schemas['Shown'] }>()
const emit = defineEmits<{ close: [] }>()
const words = computed(() => {
  const by = new Map<string, Schemas['Gloss'][]>()
  for (const g of props.shown.glossary ?? []) by.set(g.word, [...(by.get(g.word) ?? []), g])
  return [...by]
})
</script>

<template>
  <Pane :title="t('tools.glossary')" @close="emit('close')">
    <dl>
      <template v-for="[word, said] in words" :key="word">
        <dt>{{ word }}</dt>
        <dd v-for="(g, i) in said" :key="i" :lang="g.language || undefined">
          <small v-if="g.language">{{ languageInItself(g.language) }}</small>
          <SafeHtml :html="g.html" />
        </dd>
      </template>
    </dl>
  </Pane>
</template>

<style scoped>
dl {
  margin: 0;
}
dt {
  font-weight: 700;
}
dd {
  margin: 2px 0 8px;
}
small {
  color: var(--ink-soft);
}
dd :deep(p) {
  margin: 0;
}
</style>
