<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { useSession } from '@/contract/session'

/** The rooms of the bank. */
const route = useRoute()
const { may } = useSession()
const tabs = computed(() => [
  ['/bank', 'Items'],
  ['/bank/passages', 'Passages'],
  ...(may('build') ? [['/bank/shelf', 'Media shelf']] : []),
  ['/bank/banks', 'Banks'],
  ['/bank/tags', 'Tags'],
  ...(may('build') ? [['/bank/standards', 'Standards']] : []),
])
const here = computed(() => tabs.value.find(([path]) => path === route.path)?.[1])
</script>

<template>
  <h1 v-if="here" class="out-of-sight">{{ here }}</h1>
  <nav class="tabs" aria-label="Of the bank">
    <RouterLink v-for="[path, name] in tabs" :key="path" :to="path!" :aria-current="route.path === path ? 'page' : undefined">{{
      name
    }}</RouterLink>
    <span class="right"><slot /></span>
  </nav>
</template>

<style scoped>
.tabs {
  display: flex;
  align-items: center;
  gap: 20px;
  height: 40px;
  padding: 0 16px;
  border-bottom: 1px solid var(--rule);
  background: var(--board);
}
a {
  display: grid;
  place-items: center;
  height: 100%;
  color: var(--ink-soft);
  text-decoration: none;
  border-bottom: 3px double transparent;
  border-top: 3px solid transparent;
}
a[aria-current] {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--ink);
}
.right {
  margin-left: auto;
  display: flex;
  gap: 8px;
}
@media (max-width: 860px) {
  .tabs {
    flex-wrap: wrap;
    height: auto;
    gap: 0 16px;
    padding-bottom: 4px;
  }
  a {
    height: 34px;
  }
  .right {
    margin: 0;
    flex-wrap: wrap;
  }
}
</style>
