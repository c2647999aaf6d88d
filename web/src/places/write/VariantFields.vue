<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import { languageName } from '@/contract/format'
import type { DocumentChoice, ItemDocument } from './document'
import RichText from './RichText.vue'

/** The item in one more language, beside the first: the same places to answer, the same key. */
const props = defineProps<{ document: ItemDocument; language: string }>()
const variant = computed(() => props.document.variants?.find((v) => v.language === props.language))

const empty = (list: DocumentChoice[] | undefined) => list?.map((c) => ({ ...c, html: '' }))
function begin() {
  const body = JSON.parse(JSON.stringify(props.document.body)) as ItemDocument['body']
  for (const b of body) {
    if (b.html) b.html = ''
    if (b.interaction) {
      b.interaction.choices = empty(b.interaction.choices)
      b.interaction.targets = empty(b.interaction.targets)
    }
  }
  props.document.variants = [
    ...(props.document.variants ?? []).filter((v) => v.language !== props.language),
    { language: props.language, body },
  ]
}
function drop() {
  const left = props.document.variants?.filter((v) => v.language !== props.language)
  props.document.variants = left?.length ? left : undefined
}

/** Each text of the item with its fellow in the other language; both are changed in place. */
const rows = computed(() => {
  const out: { name: string; from: string; to: { html?: string } }[] = []
  props.document.body.forEach((b, i) => {
    const other = variant.value?.body[i]
    if (!other) return
    if (b.html) out.push({ name: 'Text', from: b.html, to: other })
    for (const side of ['choices', 'targets'] as const)
      b.interaction?.[side]?.forEach((c, k) => {
        const fellow = other.interaction?.[side]?.[k]
        if (fellow && c.html) out.push({ name: c.plain ? 'Text between' : c.id, from: c.html, to: fellow })
      })
    if (b.interaction?.picture && other.interaction?.picture)
      out.push({ name: 'Alternative text', from: b.interaction.picture.alt, to: altOf(other.interaction.picture) })
  })
  return out
})
function altOf(picture: { alt: string }) {
  return {
    get html() {
      return picture.alt
    },
    set html(v: string) {
      picture.alt = v
    },
  }
}
const missing = computed(() => rows.value.filter((r) => !r.to.html?.trim()).length)
</script>

<template>
  <div v-if="!variant">
    <Button :label="`Write it in ${languageName(language)} too`" size="small" severity="secondary" outlined @click="begin" />
  </div>
  <div v-else>
    <p class="row">
      <span :class="missing ? 'resin' : 'soft'">{{
        missing ? `${missing} of ${rows.length} texts are missing` : 'nothing is missing'
      }}</span>
      <button type="button" class="link-button" @click="begin">begin anew</button>
      <button type="button" class="link-button" @click="drop">drop the {{ languageName(language) }} text</button>
    </p>
    <table class="beside">
      <thead>
        <tr>
          <th>{{ languageName('en') }}</th>
          <th>{{ languageName(language) }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in rows" :key="i">
          <td><SafeHtml :html="r.from" /></td>
          <td>
            <RichText
              :model-value="r.to.html ?? ''"
              :label="`${r.name} in ${languageName(language)}`"
              :lang="language"
              small
              plain
              @update:model-value="r.to.html = $event"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.beside {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
th {
  text-align: left;
  font-size: 12px;
  color: var(--ink-soft);
}
td {
  vertical-align: top;
  padding: 4px 10px 4px 0;
  border-bottom: 1px solid var(--rule);
}
</style>
