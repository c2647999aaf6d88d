<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { defineAsyncComponent, ref } from 'vue'
import { isTyping, screenKeys } from './keys'

// The keys are heard at once; what shows them comes when it is asked for.
const Dialog = defineAsyncComponent(() => import('primevue/dialog'))
const open = ref(false)
const everywhere: [string, string][] = [
  ['Ctrl K', 'go to'],
  ['/', 'search here'],
  ['↑ ↓ Enter', 'through a table and into its row'],
  ['?', 'these keys'],
]

useEventListener(document, 'keydown', (e) => {
  if (isTyping(e) || e.ctrlKey || e.metaKey || e.altKey) return
  if (e.key === '?') open.value = true
  if (e.key === '/') {
    const search = document.querySelector<HTMLInputElement>('main [data-search]')
    if (search) {
      e.preventDefault()
      search.focus()
    }
  }
})
</script>

<template>
  <Dialog v-model:visible="open" modal header="Keys" :style="{ width: '420px' }" dismissable-mask>
    <dl>
      <template v-for="[key, what] in [...screenKeys, ...everywhere]" :key="key">
        <dt>
          <kbd>{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
  </Dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin: 0;
}
dd {
  margin: 0;
}
kbd {
  font: 12px var(--mono);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 1px 6px;
}
</style>
