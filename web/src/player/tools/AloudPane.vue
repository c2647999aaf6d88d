<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import Pane from './Pane.vue'
import { paint } from './ranges'
import { readingOf, type Reading } from './spoken'
import { deviceVoice } from './voice'
import { t } from '@/words'

/** Reads aloud what the settings and supports allow, marks each word as it goes, and says where there is no voice. */
const props = defineProps<{ parts: string[]; page: () => HTMLElement | null }>()
const emit = defineEmits<{ close: [] }>()
const voice = deviceVoice()
const state = ref<'still' | 'reading' | 'paused'>('still')
const rate = ref(1)
const noVoice = ref('')
const saying = ref('')
let queue: Reading[] = []

/** What is on the page, in its order, as far as it may be read. */
function readings(): Reading[] {
  const marked = [...(props.page()?.querySelectorAll<HTMLElement>('[data-read]') ?? [])]
  return marked
    .filter((el) => props.parts.includes(el.dataset.read!) && el.offsetParent !== null)
    .flatMap((el) => readingOf(el, props.parts.includes('formulas')) ?? [])
}
function next() {
  const one = queue.shift()
  if (!one) return stop()
  if (!voice?.speaks(one.language)) {
    noVoice.value = t('tools.noVoice')
    return stop()
  }
  one.el.scrollIntoView({ block: 'nearest' })
  voice.speak(
    one.text,
    one.language,
    rate.value,
    (at, length) => {
      const word = one.word(at, length)
      saying.value = one.text.slice(at, at + length)
      if (word instanceof Range) paint('pine-spoken', [word])
      else paint('pine-spoken', [])
    },
    () => state.value === 'reading' && next(),
  )
}
function play(from: Reading[]) {
  noVoice.value = ''
  voice?.stop()
  queue = from
  state.value = 'reading'
  if (!queue.length) {
    noVoice.value = t('tools.nothingToRead')
    return stop()
  }
  next()
}
function stop() {
  state.value = 'still'
  voice?.stop()
  saying.value = ''
  paint('pine-spoken', [])
}
function pause() {
  if (state.value === 'reading') {
    voice?.pause()
    state.value = 'paused'
  } else {
    state.value = 'reading'
    voice?.resume()
  }
}
/** What one has selected, or where one is. */
function playHere() {
  const all = readings()
  const node = document.getSelection()?.anchorNode ?? null
  const at = all.findIndex((r) => node && r.el.contains(node))
  play(at < 0 ? all : all.slice(at))
}
onMounted(() => {
  if (!voice) noVoice.value = t('tools.noVoice')
})
onBeforeUnmount(stop)
const told = computed(() => props.parts.map((p) => t(`tools.reads.${p}`)).join(', '))
</script>

<template>
  <Pane :title="t('tools.aloud')" @close="emit('close')">
    <p class="soft">{{ t('tools.readsAloud', { what: told }) }}</p>
    <div class="row">
      <button v-if="state === 'still'" type="button" class="main" autofocus :disabled="!voice" @click="playHere">
        {{ t('tools.play') }}
      </button>
      <template v-else>
        <button type="button" class="main" @click="pause">{{ t(state === 'paused' ? 'tools.goOn' : 'tools.pause') }}</button>
        <button type="button" class="quiet" @click="stop">{{ t('tools.stop') }}</button>
      </template>
    </div>
    <label>
      {{ t('tools.speed') }}
      <select v-model.number="rate">
        <option v-for="r in [0.7, 0.85, 1, 1.2, 1.5]" :key="r" :value="r">{{ r * 100 }}%</option>
      </select>
    </label>
    <p class="saying" aria-hidden="true">{{ saying }}</p>
    <p v-if="noVoice" role="alert">{{ noVoice }}</p>
  </Pane>
</template>

<style scoped>
.row {
  display: flex;
  gap: 8px;
  margin: 8px 0;
}
p {
  margin: 0;
  font-size: 15px;
}
.soft {
  color: var(--ink-soft);
}
label {
  display: flex;
  gap: 10px;
  align-items: center;
}
select {
  min-height: 44px;
  padding: 0 26px 0 10px;
  font: inherit;
  color: inherit;
  background-color: var(--paper);
  border: 1px solid var(--rule-strong);
}
.saying {
  min-height: 1.6em;
  font-weight: 650;
}
[role='alert'] {
  color: var(--brick);
  font-weight: 600;
}
</style>
