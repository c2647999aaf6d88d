<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import * as assessmentQueries from '@/queries/assess'
import type { Spot } from '@/places/settings/settings'

/** What to lay beside: another place of this assessment, or another assessment. */
const props = defineProps<{ places: Spot[]; chosen?: string; except: number }>()
const emit = defineEmits<{ choose: [beside: string | undefined] }>()
const list = useQuery(assessmentQueries.assessments())
const others = computed(() => (list.data.value ?? []).filter((a) => a.id !== props.except))
const none = 'none'
</script>

<template>
  <label class="beside">
    Side by side with
    <select
      :value="chosen ?? none"
      @change="
        emit(
          'choose',
          ($event.target as HTMLSelectElement).value === none ? undefined : ($event.target as HTMLSelectElement).value,
        )
      "
    >
      <option :value="none">nothing</option>
      <optgroup label="This assessment">
        <option v-for="p in places" :key="p.value" :value="p.value">{{ p.label }}</option>
      </optgroup>
      <optgroup v-if="others.length" label="Other assessments">
        <option v-for="a in others" :key="a.id" :value="`assessment=${a.id}`">{{ a.title }}</option>
      </optgroup>
    </select>
  </label>
</template>

<style scoped>
.beside {
  display: flex;
  gap: 8px;
  align-items: center;
}
select {
  max-width: 220px;
}
</style>
