<script setup lang="ts">
import type { Schemas } from '@/contract/client'
import { capital } from '@/contract/format'

/** What differs between two versions: struck out what is gone, underlined what is new. */
defineProps<{ list: Schemas['ItemDifference'][] }>()
</script>

<template>
  <p v-if="!list.length" class="soft">Nothing differs.</p>
  <dl v-else>
    <template v-for="d in list" :key="d.what">
      <dt>{{ capital(d.what) }}</dt>
      <dd v-if="d.text.length">
        <template v-for="(p, i) in d.text" :key="i"
          ><del v-if="p.in === 'before'">{{ p.words }}</del
          ><ins v-else-if="p.in === 'after'">{{ p.words }}</ins
          ><span v-else>{{ p.words }}</span
          >{{ ' ' }}</template
        >
      </dd>
      <dd v-else-if="d.before || d.after">
        <del v-if="d.before">{{ d.before }}</del> <ins v-if="d.after">{{ d.after }}</ins>
      </dd>
      <dd v-else>changed</dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 14px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
del {
  color: var(--brick);
}
ins {
  color: var(--pine);
  font-weight: 600;
}
</style>
