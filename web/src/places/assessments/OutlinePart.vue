<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { ProblemError } from '@/contract/client'
import OutlineFields from './OutlineFields.vue'
import { useOpenSheet } from './open'

const { sheet, editable, kept, error, putOutline } = useOpenSheet()
const typed = ref({ ...sheet.value.outline })
const changed = computed(() => JSON.stringify(typed.value) !== JSON.stringify(sheet.value.outline))
const wrong = computed(() => (error.value instanceof ProblemError ? error.value : undefined))

const keep = () => (changed.value && editable.value ? putOutline(typed.value) : undefined)
watchDebounced(typed, keep, { debounce: 700, deep: true })
onBeforeUnmount(keep)
</script>

<template>
  <div class="page">
    <PageHead title="Outline" :note="kept" />
    <Trouble :error="error" />
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
