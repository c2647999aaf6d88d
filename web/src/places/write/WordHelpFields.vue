<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref } from 'vue'
import { languageName } from '@/contract/format'
import * as supportQueries from '@/queries/supports'
import type { ItemDocument } from './document'
import RichText from './RichText.vue'
import { dropHelp, helpedWords, translateHelp, type HelpedWord } from './wordHelp'

/** The words that are explained to students with a glossary: in the item's language, and in theirs. */
const props = defineProps<{ document: ItemDocument; language: string }>()
const words = computed(() => helpedWords(props.document))
const catalog = useQuery(supportQueries.catalog)
const languages = computed(() => catalog.data.value?.find((s) => s.kind.type === 'language')?.kind.options ?? [])
const others = (w: HelpedWord) =>
  languages.value.filter((l) => l.value !== props.language && !w.cards.some((c) => c.language === l.value))
const nameOf = (language?: string) => languageName(language || props.language)
const list = ref<HTMLElement>()
async function translate(w: HelpedWord, e: Event) {
  const to = (e.target as HTMLSelectElement).value
  ;(e.target as HTMLSelectElement).value = ''
  translateHelp(props.document, w.catalog, to)
  await nextTick()
  await nextTick() // the text comes a tick after its frame
  list.value?.querySelector<HTMLElement>(`[data-word="${CSS.escape(w.catalog)}"] dd:last-of-type [role=textbox]`)?.focus()
}
</script>

<template>
  <p v-if="!words.length" class="soft">
    Select a word in the question or a choice, then press <em>Word help</em> above it. Students with a glossary can read what you
    write here.
  </p>
  <dl v-else ref="list">
    <div v-for="w in words" :key="w.catalog" :data-word="w.catalog">
      <dt>
        {{ w.word }}
        <select
          v-if="others(w).length"
          :aria-label="`Explain ${w.word} in another language`"
          value=""
          @change="translate(w, $event)"
        >
          <option value="" disabled>Add a language</option>
          <option v-for="l in others(w)" :key="l.value" :value="l.value">{{ l.words }}</option>
        </select>
        <button
          type="button"
          class="link-button"
          :aria-label="`Remove the help for ${w.word}`"
          @click="dropHelp(document, w.catalog)"
        >
          Remove
        </button>
      </dt>
      <dd v-for="c in w.cards" :key="c.language ?? ''">
        <span class="soft">{{ nameOf(c.language) }}</span>
        <RichText
          :model-value="c.html"
          :label="`${w.word}, explained in ${nameOf(c.language)}`"
          :lang="c.language || language"
          small
          plain
          @update:model-value="c.html = $event"
        />
      </dd>
    </div>
  </dl>
</template>

<style scoped>
dl {
  margin: 0;
}
dl > div {
  padding: 8px 0;
  border-bottom: 1px solid var(--rule);
}
dt {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  font-weight: 650;
}
dt select {
  margin-left: auto;
}
dt select,
dt button {
  font-weight: 400;
}
dd {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  margin: 6px 0 0;
}
</style>
