<script setup lang="ts">
import { IconCheck, IconMinus, IconX } from '@tabler/icons-vue'
import { computed } from 'vue'
import ItemBody from '@/item/ItemBody.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { day } from '@/contract/format'
import { t, useStudentLanguage } from '@/words'

/** What a student may see of their own work now: exactly what is due, and when the rest comes. */
const props = defineProps<{ feedback: Schemas['OwnFeedback'] }>()
const { locale } = useStudentLanguage()
const outcomes = { right: IconCheck, wrong: IconX, part: IconMinus } as const
const icon = (outcome?: string) => outcomes[outcome as keyof typeof outcomes]
const words: Record<string, string> = {
  right: 'feedback.right',
  wrong: 'feedback.wrong',
  part: 'feedback.part',
  unread: 'feedback.unread',
}
const said = (l: Schemas['ItemFeedback']) => t(words[l.outcome ?? ''] ?? 'feedback.open')
const next = computed(() => props.feedback.next.map((what) => t(`feedback.what.${what}`)).join(', '))
const when = computed(() =>
  props.feedback.nextAt
    ? t('feedback.from', { what: next.value, day: day(props.feedback.nextAt, locale.value) })
    : t('feedback.released', { what: next.value }),
)
const score = computed(() => {
  const s = props.feedback.score
  if (!s) return ''
  return [
    s.points !== undefined && t('feedback.points', { n: s.points, of: s.of }),
    s.percentTenths !== undefined && `${(s.percentTenths / 10).toFixed(1)}%`,
    s.band,
  ]
    .filter(Boolean)
    .join(', ')
})
/** Which try counts, and what it loses. */
const counts = computed(() => {
  const s = props.feedback.score
  if (!s) return ''
  return [
    s.tries > 1 && t(`feedback.counts.${s.keep}`, { n: s.tries }),
    s.lostAsRetake > 0 && t('feedback.lostAsRetake', { n: s.lostAsRetake }, s.lostAsRetake),
    s.lostAsLate > 0 && t('feedback.lostAsLate', { n: s.lostAsLate }, s.lostAsLate),
  ]
    .filter(Boolean)
    .join(' ')
})
const shownLines = computed(() => props.feedback.lines.filter((l) => l.outcome || l.shown || l.why))
</script>

<template>
  <section class="feedback" :aria-label="t('feedback.title')">
    <template v-if="feedback.score">
      <p v-if="feedback.score.waits">{{ t('feedback.waits') }}</p>
      <p v-else-if="score" class="score">
        {{ t('feedback.score') }} <strong>{{ score }}</strong>
      </p>
      <p v-if="counts" class="small">{{ counts }}</p>
    </template>
    <template v-if="feedback.goOver.length">
      <h2>{{ t('feedback.goOver') }}</h2>
      <ul>
        <li v-for="html in feedback.goOver" :key="html"><SafeHtml :html="html" /></li>
      </ul>
    </template>
    <ol v-if="shownLines.length" class="lines">
      <li v-for="l in shownLines" :key="l.number">
        <h2>
          {{ l.number }}
          <span v-if="l.outcome"
            ><component :is="icon(l.outcome)" v-if="icon(l.outcome)" :size="18" aria-hidden="true" /> {{ said(l) }}</span
          >
        </h2>
        <ItemBody
          v-if="l.shown"
          :shown="l.shown"
          :name="`told-${l.number}`"
          :model-value="l.response ?? {}"
          :keys="l.keys"
          read-only
        />
        <SafeHtml v-if="l.why" :html="l.why" />
      </li>
    </ol>
    <p v-if="feedback.next.length" class="small">{{ when }}</p>
  </section>
</template>

<style scoped>
.feedback {
  border-top: 1.5px solid var(--ink);
  margin: 20px 0;
  padding-top: 12px;
}
.score strong {
  font-size: 1.2em;
}
h2 {
  font-size: 17px;
  margin: 0 0 6px;
  display: flex;
  gap: 12px;
  align-items: center;
}
h2 span {
  display: inline-flex;
  gap: 4px;
  align-items: center;
  font: 400 16px var(--reading);
}
.lines {
  list-style: none;
  padding: 0;
}
.lines li {
  border-top: 1px solid var(--rule);
  padding: 10px 0;
}
.small {
  color: var(--ink-soft);
  font-size: 15px;
}
</style>
