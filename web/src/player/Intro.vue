<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { t } from '@/words'
import { howOf } from './how'
import { hasVoice } from './tools/voice'

/** The first page: whose it is, what is to be done and how, and Begin. No clock has started. */
const props = defineProps<{ take: Schemas['Take']; trial: boolean; busy: boolean; wrongCode: string }>()
const emit = defineEmits<{ begin: [code: string] }>()
const code = ref('')
const how = computed(() => howOf(props.take))
/** Who is to be read to hears before they begin that this device cannot. */
const mute = ref(false)
onMounted(async () => {
  if (how.value.tools.readAloud.length) mute.value = !(await hasVoice(how.value.begins.language || 'en'))
})
const asks = computed(() => how.value.code && !props.trial)
</script>

<template>
  <main class="one">
    <h1 tabindex="-1">{{ take.title }}</h1>
    <p v-if="!trial">
      {{ t('intro.whose') }} <strong>{{ take.student }}</strong>.
    </p>
    <SafeHtml v-if="take.instructions" :html="take.instructions" />
    <p v-if="how.directions" class="directions">{{ how.directions }}</p>
    <p>
      {{ t('intro.items', { n: take.count }, take.count) }}
      <template v-if="take.limited">{{ t('intro.minutes', { n: take.minutes }, take.minutes) }} {{ t('intro.clock') }}</template>
      {{ t('intro.saves') }}
    </p>
    <ul>
      <li v-if="how.tries > 1">
        {{ t('intro.tries', { n: how.tries }) }}
        <template v-if="how.penalty">{{ t('intro.penalty', { n: how.penalty }) }}</template>
      </li>
      <li v-if="how.breaks">{{ t('intro.breaks', { n: how.breaks }, how.breaks) }}</li>
      <li v-if="how.forwardOnly">{{ t('intro.forward') }}</li>
      <li v-else-if="how.afterEach.length">{{ t('intro.afterEach') }}</li>
      <li v-if="!how.notes">{{ t('intro.noNotes') }}</li>
      <li v-if="how.supports.length">
        {{ t('support.yours') }} {{ how.supports.map((s) => t(`support.${s.key}`)).join(', ') }}.
      </li>
    </ul>
    <p v-if="mute" class="mute" role="status">{{ t('tools.noVoice') }}</p>
    <form @submit.prevent="emit('begin', code)">
      <label v-if="asks" class="code">
        {{ t('intro.code') }}
        <input
          v-model="code"
          type="text"
          autocomplete="off"
          autocapitalize="characters"
          spellcheck="false"
          maxlength="12"
          :aria-invalid="wrongCode ? true : undefined"
          aria-describedby="wrong-code"
        />
      </label>
      <p id="wrong-code" role="alert">{{ wrongCode }}</p>
      <button type="submit" class="main" :disabled="busy || (asks && !code.trim())">{{ t('intro.begin') }}</button>
    </form>
  </main>
</template>

<style scoped>
.directions {
  white-space: pre-line;
}
ul {
  margin: 0 0 14px;
  padding-left: 22px;
}
ul:empty {
  display: none;
}
.code {
  display: grid;
  gap: 4px;
  margin-bottom: 6px;
  font-weight: 600;
}
.code input {
  width: 12em;
  min-height: 44px;
  padding: 0 12px;
  font: 600 20px var(--mono);
  letter-spacing: 0.18em;
  text-transform: uppercase;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
}
.mute,
[role='alert'] {
  color: var(--brick);
  font-weight: 600;
  margin: 0 0 10px;
}
</style>
