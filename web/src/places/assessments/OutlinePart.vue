<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed } from 'vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { ProblemError } from '@/contract/client'
import Clash from './Clash.vue'
import OutlineFields from './OutlineFields.vue'
import { useOpenSheet } from './open'
import { useTyped } from './useTyped'

const { sheet, editable, kept, error, putOutline } = useOpenSheet()
const {
  value: typed,
  clash,
  takeTheirs,
  keepMine,
  keep,
} = useTyped(sheet, {
  name: 'outline',
  part: (s) => ({ ...s.outline }),
  put: putOutline,
  editable,
  error,
})
watchDebounced(typed, keep, { debounce: 700, deep: true })
const wrong = computed(() => (error.value instanceof ProblemError ? error.value : undefined))
</script>

<template>
  <div class="page">
    <PageHead title="Outline" :note="kept" />
    <Clash v-if="clash" :by="sheet.changedBy" @theirs="takeTheirs" @mine="keepMine" />
    <Trouble v-else :error="error" />
    <OutlineFields v-model="typed" :error="wrong" :disabled="!editable" />
  </div>
</template>

<style scoped>
.page {
  padding: 16px 22px 40px;
  max-width: 720px;
  overflow: auto;
}
</style>
