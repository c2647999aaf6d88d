<script setup lang="ts">
import { IconVolume } from '@tabler/icons-vue'
import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'

/** Files of the shelf as one looks them over. */
defineProps<{ files: Schemas['Shelved'][] }>()
const emit = defineEmits<{ choose: [file: Schemas['Shelved']] }>()
</script>

<template>
  <ul class="grid" aria-label="Files">
    <li v-for="f in files" :key="f.hash">
      <button type="button" @click="emit('choose', f)">
        <span class="frame">
          <img v-if="f.type.startsWith('image/')" :src="`/media/${f.hash}`" :alt="f.alt" loading="lazy" />
          <IconVolume v-else :size="40" stroke="1.3" aria-hidden="true" />
        </span>
        <strong>{{ f.name }}</strong>
        <span :class="f.alt || !f.type.startsWith('image/') ? 'soft' : 'caution'">{{
          f.alt || (f.type.startsWith('image/') ? 'no alternative text yet' : 'sound')
        }}</span>
        <span class="soft">{{ f.uses ? `shown ${plural(f.uses, 'time')}` : 'shown nowhere' }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.grid {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 14px;
}
button {
  display: grid;
  width: 100%;
  font: inherit;
  color: inherit;
  text-align: left;
  background: none;
  border: 1px solid var(--rule);
  padding: 0 0 6px;
  cursor: pointer;
}
button:hover,
button:focus-visible {
  border-color: var(--pine);
}
.frame {
  display: grid;
  place-items: center;
  height: 120px;
  background: var(--board);
  border-bottom: 1px solid var(--rule);
  margin-bottom: 5px;
}
img {
  max-width: 100%;
  max-height: 119px;
}
button > :not(.frame) {
  padding: 0 8px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.caution {
  color: var(--resin);
}
</style>
