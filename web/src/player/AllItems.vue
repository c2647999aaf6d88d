<script setup lang="ts">
import { IconBookmark } from '@tabler/icons-vue'
import ItemBody from '@/item/ItemBody.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'
import { t } from '@/words'
import PartDirections from './PartDirections.vue'
import type { LineAnswer, Response } from './answers'
import { howOf } from './how'

/** All items on one page, each passage before the first item that hangs on it. */
const props = defineProps<{ take: Schemas['Take']; answers: LineAnswer[]; at: number; error?: Error }>()
const emit = defineEmits<{ answer: [line: number, response: Response]; mark: [line: number, marked: boolean] }>()
const how = () => howOf(props.take)
const begins = (i: number, what: 'part' | 'passage') => {
  const now = props.take.lines[i]![what]
  return !!now && props.take.lines[i - 1]?.[what] !== now
}
const passage = (l: Schemas['TakeLine']) => props.take.passages.find((p) => p.identifier === l.passage)
</script>

<template>
  <main>
    <section class="all">
      <Trouble :error="error" />
      <template v-for="(l, i) in take.lines" :key="l.line">
        <PartDirections v-if="begins(i, 'part')" :part="take.parts[l.part - 1]!" open />
        <section v-if="begins(i, 'passage') && passage(l)" class="passage" :aria-label="passage(l)!.title">
          <h2 :lang="passage(l)!.language">{{ passage(l)!.title }}</h2>
          <SafeHtml :html="passage(l)!.body" :lang="passage(l)!.language" data-read="passages" />
        </section>
        <div class="number">
          <component :is="at === i + 1 ? 'h1' : 'h2'" :id="`item-${i + 1}`" tabindex="-1">{{ i + 1 }}</component>
          <button
            v-if="how().tools.marks"
            type="button"
            class="quiet small"
            :aria-pressed="answers[i]!.marked"
            :aria-label="t('work.markQuestion', { n: i + 1 })"
            @click="emit('mark', i + 1, !answers[i]!.marked)"
          >
            <IconBookmark :size="18" stroke="1.6" aria-hidden="true" />{{ t(answers[i]!.marked ? 'work.marked' : 'work.mark') }}
          </button>
        </div>
        <ItemBody
          :shown="l.shown"
          :name="`line-${i + 1}`"
          :labelled-by="`item-${i + 1}`"
          :model-value="answers[i]!.response"
          @update:model-value="emit('answer', i + 1, $event)"
        />
      </template>
    </section>
  </main>
</template>

<style scoped>
.all {
  zoom: var(--print);
  width: min(720px, 100%);
  margin: 0 auto;
  padding: 24px 34px 40px;
}
.number {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 34px 0 8px;
}
h1,
h2 {
  font: 650 19px var(--reading);
}
.passage {
  border: 1px solid var(--rule);
  padding: 14px 18px;
  margin: 18px 0;
}
button.small {
  padding: 0 12px;
  font-size: 15px;
}
</style>
