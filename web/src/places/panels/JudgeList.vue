<script setup lang="ts">
import { IconX } from '@tabler/icons-vue'
import type { Schemas } from '@/contract/client'

/** Who is going to be invited. */
defineProps<{ judges: Schemas['Person'][] }>()
const emit = defineEmits<{ remove: [id: number] }>()
</script>

<template>
  <ol v-if="judges.length" aria-label="Judges to invite">
    <li v-for="j in judges" :key="j.id">
      {{ j.name }} <span class="soft">{{ j.where || 'whole district' }}</span>
      <button type="button" class="link-button" :aria-label="`Remove ${j.name}`" @click="emit('remove', j.id)">
        <IconX :size="15" aria-hidden="true" />
      </button>
    </li>
  </ol>
</template>

<style scoped>
ol {
  margin: 0;
  padding-left: 22px;
}
li {
  padding: 2px 0;
}
button {
  min-width: 24px;
  min-height: 24px;
}
</style>
