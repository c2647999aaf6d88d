<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/contract/client'
import { day, gradeName, kindName, languageName, pValue, plural } from '@/contract/format'

/** What is said of an item beside its text. */
const props = defineProps<{ detail: Schemas['ItemDetail'] }>()

const facts = computed(() => {
  const { item: i, owner, origin } = props.detail
  const out: [string, string][] = [
    ['Standards', i.standards.join(', ') || 'aligned to nothing'],
    ['Kind', kindName(i.kind)],
    ['Grade', i.grade ? gradeName(i.grade) : 'not set'],
    ['Depth of knowledge', i.depth ? String(i.depth) : 'not set'],
    ['Difficulty', i.difficulty === undefined ? 'not known' : pValue(i.difficulty)],
    ['Language', languageName(i.language)],
    ['Version', String(props.detail.number)],
    ['Bank', i.bank],
    ['Owner', owner || 'nobody; its bank’s keepers'],
    ['Sealed on', plural(i.uses, 'form') + (i.lastUsed ? `, last ${day(i.lastUsed)}` : '')],
  ]
  if (i.course) out.splice(3, 0, ['Course', i.course])
  if (i.tags.length) out.splice(1, 0, ['Tags', i.tags.map((t) => t.name).join(', ')])
  if (origin) out.push(['Copied from', `${origin.identifier}, version ${origin.version}`])
  return out
})
</script>

<template>
  <dl>
    <template v-for="[name, text] in facts" :key="name">
      <dt>{{ name }}</dt>
      <dd>{{ text }}</dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 14px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
</style>
