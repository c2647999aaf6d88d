<script setup lang="ts">
import type { Schemas } from '@/contract/client'
import { linkNames } from './links'

/** Says that a search by standard goes through crosswalks, and through which. */
defineProps<{ links: Schemas['StandardLink'][]; off: boolean }>()
const emit = defineEmits<{ toggle: [] }>()
</script>

<template>
  <div class="links">
    <details v-if="!off">
      <summary>
        with what is aligned to other frameworks, through {{ links.length }} {{ links.length === 1 ? 'link' : 'links' }}
      </summary>
      <p v-for="l in links" :key="`${l.code}${l.otherCode}${l.kind}`">
        <span class="mono">{{ l.code }}</span> is {{ linkNames[l.kind] }} <span class="mono">{{ l.otherCode }}</span> of
        {{ l.framework }}: {{ l.otherText }}
      </p>
    </details>
    <span v-else class="soft">without what is aligned to other frameworks</span>
    <button type="button" class="link-button" @click="emit('toggle')">
      {{ off ? 'go through links' : 'this framework alone' }}
    </button>
  </div>
</template>

<style scoped>
.links {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  margin-bottom: 6px;
}
details {
  max-height: 150px;
  overflow: auto;
}
summary {
  min-height: 24px;
  cursor: pointer;
}
button {
  white-space: nowrap;
}
p {
  margin: 3px 0 0 14px;
}
</style>
