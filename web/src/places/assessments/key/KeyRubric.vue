<script setup lang="ts">
import RubricTraits from '@/parts/RubricTraits.vue'
import SidePanel from '@/parts/SidePanel.vue'
import type { Question } from './keyGrid'

/** The rubric by which a written answer of a document is read. */
const rubric = defineModel<Question['rubric']>({ required: true })
defineProps<{ number: string; long: boolean }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <SidePanel :title="`Question ${number}: how it is read`" @close="$emit('close')">
    <p class="soft">
      {{
        long
          ? 'An extended answer is read by a rubric.'
          : 'With points alone a reader gives from 0 to them; a rubric says what each is for.'
      }}
    </p>
    <div class="fields"><RubricTraits v-model="rubric" /></div>
  </SidePanel>
</template>

<style scoped>
.fields :deep(input) {
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font: inherit;
}
</style>
