<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { ProblemError } from '@/contract/client'
import Clash from '@/places/assessments/sheet/Clash.vue'
import OutlineFields from './OutlineFields.vue'
import { useOpenSheet } from '@/places/assessments/sheet/open'
import { useTyped } from '@/places/assessments/sheet/useTyped'

const { sheet, editable, kept, error, putOutline } = useOpenSheet()
const {
  value: typed,
  clash,
  takeTheirs,
  keepMine,
} = useTyped(sheet, {
  name: 'outline',
  part: (s) => ({ ...s.outline }),
  put: putOutline,
  editable,
  error,
})
const wrong = computed(() => (error.value instanceof ProblemError ? error.value : undefined))
</script>

<template>
  <div class="page">
    <PageHead title="Outline" :note="kept" />
    <Clash v-if="clash" :by="sheet.changedBy" @theirs="takeTheirs" @mine="keepMine" />
    <Trouble v-else :error="error" />
    <Note v-if="sheet.copiedFrom">
      A copy of <RouterLink :to="`/assessments/${sheet.copiedFrom.id}`">{{ sheet.copiedFrom.title }}</RouterLink>: its blueprint,
      lines and bands came along, its dates and sections did not. Set them under Distribution.
    </Note>
    <OutlineFields v-model="typed" :error="wrong" :disabled="!editable" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  max-width: 720px;
  overflow: auto;
}
</style>
