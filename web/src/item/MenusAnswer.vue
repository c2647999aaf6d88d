<script setup lang="ts">
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { left, pairOf, plainWords } from './pairs'
import { t } from '@/words'

/** A sentence with menus in it; one choice from each. */
defineOptions({ inheritAttrs: false })
const pairs = defineModel<string[]>({ required: true })
const props = defineProps<{
  choices: Schemas['Choice'][]
  targets: Schemas['Choice'][]
  readOnly?: boolean
  correct?: string[]
  describedBy: string
}>()

const shown = computed(() => props.correct ?? pairs.value)
const gaps = computed(() => props.targets.filter((t) => !t.plain))
const chosen = (gap: string) => shown.value.find((p) => p.split(' ')[1] === gap)?.split(' ')[0] ?? ''

/** A menu's own words, and those that serve every menu. */
const offered = (gap: string) => props.choices.filter((c) => !c.in || c.in === gap)
const usedUp = (c: Schemas['Choice'], gap: string) => chosen(gap) !== c.id && left(c, shown.value, 0) <= 0

function choose(gap: string, choice: string) {
  const others = pairs.value.filter((p) => p.split(' ')[1] !== gap)
  pairs.value = choice ? [...others, pairOf(choice, gap)] : others
}
</script>

<template>
  <div role="group" :aria-labelledby="describedBy">
    <p class="sentence">
      <template v-for="(gap, i) in targets" :key="i"
        ><SafeHtml v-if="gap.plain" :html="gap.html" tag="span" /><select
          v-else
          :value="chosen(gap.id)"
          :disabled="readOnly"
          :aria-label="t('item.menu', { n: gaps.indexOf(gap) + 1, of: gaps.length })"
          @change="choose(gap.id, ($event.target as HTMLSelectElement).value)"
        >
          <option value="">{{ t('item.choose') }}</option>
          <option v-for="c in offered(gap.id)" :key="c.id" :value="c.id" :disabled="usedUp(c, gap.id)">
            {{ plainWords(c.html) }}
          </option>
        </select></template
      >
    </p>
    <p v-if="correct" class="is-key">{{ t('item.key') }}</p>
  </div>
</template>

<style scoped>
.sentence {
  margin: 0;
  line-height: 2.6;
}
select {
  font: inherit;
  font-weight: 600;
  color: inherit;
  max-width: 100%;
  min-height: 44px;
  padding: 0 28px 0 8px;
  border: 1px solid var(--rule-strong);
  border-bottom: 2px solid var(--pine);
  background-color: var(--paper);
}
select:disabled {
  opacity: 1;
}
select:focus-visible {
  outline: 3px solid var(--slate);
  outline-offset: 1px;
}
</style>
