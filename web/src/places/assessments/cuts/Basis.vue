<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { plural } from '@/contract/format'
import type { Schemas } from '@/contract/client'

/** What a prediction stands on, and what is assumed of students of whom nothing is known. */
const props = defineProps<{ forecast: Schemas['Forecast']; assumed: { mean: number; sd: number } }>()
const emit = defineEmits<{ assume: [assumed: { mean: number; sd: number }] }>()

const lines = computed(() => {
  const { scaled, many, few, author, unknown } = props.forecast
  const all = scaled + many + few + author + unknown
  const of = (n: number) => (n ? `${n} of ${plural(all, 'line')}` : '')
  const parts = [
    scaled && `${of(scaled)} on the scale of this subject`,
    many && `${scaled ? many : of(many)} from 200 responses or more`,
    few && `${few} from fewer`,
    author && `${author} from the author’s estimate`,
    unknown && `${unknown} not known`,
  ]
  return parts.filter(Boolean).join(', ')
})
const rest = computed(() => props.forecast.students - props.forecast.placed)
const mean = ref(String(props.assumed.mean))
const sd = ref(String(props.assumed.sd))
const wrong = ref('')
watch(
  () => props.assumed,
  (a) => {
    mean.value = String(a.mean)
    sd.value = String(a.sd)
  },
)
function assume() {
  const m = Number(mean.value)
  const s = Number(sd.value)
  wrong.value =
    mean.value.trim() === '' || !(Math.abs(m) <= 4)
      ? 'Type a mean from −4 to 4.'
      : sd.value.trim() === '' || !(s >= 0 && s <= 3)
        ? 'Type a spread from 0 to 3.'
        : ''
  if (!wrong.value) emit('assume', { mean: m, sd: s })
}
</script>

<template>
  <p class="soft">Difficulties: {{ lines }}. <slot /></p>
  <p v-if="forecast.students" class="soft">
    Abilities: {{ forecast.placed.toLocaleString('en-US') }} of {{ plural(forecast.students, 'student') }} from their latest
    scored work in this subject<template v-if="rest"
      >; for the other {{ rest.toLocaleString('en-US') }} it is assumed that they lie around
      <input v-model="mean" inputmode="decimal" aria-label="Assumed mean ability" :aria-invalid="!!wrong" @change="assume" />,
      spread by
      <input v-model="sd" inputmode="decimal" aria-label="Assumed spread of abilities" :aria-invalid="!!wrong" @change="assume" />
      <span
        title="0 is a student who gets an item of middle difficulty right half of the time; 1 more makes that about three in four"
        >logits</span
      ></template
    >.
    <template v-if="forecast.smallSchools">
      {{ plural(forecast.smallSchools, 'school') }} with fewer than ten students
      {{ forecast.smallSchools === 1 ? 'is' : 'are' }} left out.
    </template>
  </p>
  <p v-if="wrong" class="brick" role="alert">{{ wrong }}</p>
</template>

<style scoped>
p {
  margin: 4px 0;
}
input {
  width: 46px;
  margin: 0 4px;
  height: 24px;
  text-align: right;
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--paper);
  color: var(--ink);
}
</style>
