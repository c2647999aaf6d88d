<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { languageInItself } from '@/contract/format'
import { useItemLanguage } from '@/item/language'
import { contrasts, prints, type Supports } from '@/player/supports'
import { readSheet, sheetKey } from '@/places/assessments/lines/lines'

/** What a preview is of: which student's draw, which form, which language, which supports. Students do not see this line. */
const props = defineProps<{ id: number; seed: number; supports: Supports }>()
const emit = defineEmits<{ seed: [seed: number]; supports: [supports: Supports] }>()
const contrastNames = {
  '': 'as it is',
  'light-on-dark': 'light on dark',
  'dark-on-yellow': 'dark on yellow',
  'dark-on-blue': 'dark on pale blue',
}
const change = (part: Partial<Supports>) => emit('supports', { ...props.supports, ...part })
const query = useQuery({ queryKey: computed(() => sheetKey(props.id)), queryFn: () => readSheet(props.id), staleTime: 60_000 })
const sheet = computed(() => query.data.value)
const { language, choose } = useItemLanguage()
const most = 1_000_000
function set(e: Event) {
  const n = Math.round(Number((e.target as HTMLInputElement).value))
  if (n >= 1 && n <= most) emit('seed', n)
}
</script>

<template>
  <section v-if="sheet" class="bar" aria-label="Preview">
    <template v-if="sheet.layout.pools.length">
      <label>As drawn with seed <input type="number" min="1" :max="most" :value="seed" @change="set" /></label>
      <button type="button" class="link-button" @click="emit('seed', (seed % most) + 1)">Draw again</button>
    </template>
    <span v-if="sheet.forms.length" class="forms"
      >Form
      <template v-for="f in sheet.forms" :key="f.id">
        <strong v-if="f.id === id">{{ f.letter }}</strong>
        <RouterLink v-else :to="`/assessments/${f.id}/try`">{{ f.letter }}</RouterLink>
      </template></span
    >
    <label
      >Items read in
      <select :value="language" @change="choose(($event.target as HTMLSelectElement).value)">
        <option value="">the language they were written in</option>
        <option v-for="l in ['en', 'es']" :key="l" :value="l">{{ languageInItself(l) }}, where they have it</option>
      </select></label
    >
    <label
      >Print
      <select :value="supports.print" @change="change({ print: Number(($event.target as HTMLSelectElement).value) })">
        <option v-for="p in prints" :key="p" :value="p">{{ p * 100 }}%</option>
      </select></label
    >
    <label
      >Contrast
      <select
        :value="supports.contrast"
        @change="change({ contrast: ($event.target as HTMLSelectElement).value as Supports['contrast'] })"
      >
        <option v-for="c in contrasts" :key="c" :value="c">{{ contrastNames[c] }}</option>
      </select></label
    >
    <label
      ><input
        type="checkbox"
        :checked="supports.spaced"
        @change="change({ spaced: ($event.target as HTMLInputElement).checked })"
      />
      wider spacing</label
    >
    <label
      ><input
        type="checkbox"
        :checked="supports.calculator"
        @change="change({ calculator: ($event.target as HTMLInputElement).checked })"
      />
      calculator throughout</label
    >
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  align-items: center;
  padding: 6px 28px;
  font: 14px var(--sans, inherit);
  background: var(--tint);
  border-bottom: 1px solid var(--rule);
}
.forms {
  display: flex;
  gap: 8px;
}
input {
  height: 30px;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
}
input[type='number'] {
  width: 92px;
  text-align: right;
}
input[type='checkbox'] {
  width: 18px;
  height: 18px;
  vertical-align: -4px;
}
</style>
