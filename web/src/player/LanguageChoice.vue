<script setup lang="ts">
import { languageInItself } from '@/contract/format'
import { languages, t, useStudentLanguage } from '@/words'

/** In which language a student reads. */
const { locale, choose } = useStudentLanguage()
</script>

<template>
  <select :value="locale" :aria-label="t('language.choose')" @change="choose(($event.target as HTMLSelectElement).value)">
    <option v-for="l in languages" :key="l" :value="l" :lang="l">{{ languageInItself(l) }}</option>
  </select>
</template>
