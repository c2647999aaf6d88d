import { computed, ref, shallowRef } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { isAnswered, merged, type LineAnswer, type Response } from './answers'
import type { Attempt } from './useAttempt'
import { t } from '@/words'

/** An assessment sat by oneself, exactly as a student gets it. Nothing of it is sent or kept. */
export function useTrial(assessment: number, seed: () => number): Attempt {
  const take = shallowRef<Schemas['Take']>()
  const answers = ref<LineAnswer[]>([])
  const error = ref<Error>()

  function change(line: number, part: { response?: Response; marked?: boolean }) {
    const before = answers.value[line - 1]
    if (before) answers.value[line - 1] = { ...before, ...part, number: before.number + 1 }
  }
  return {
    take,
    answers,
    error,
    stopped: ref(''),
    saved: computed(() => t('trial.kept')),
    left: ref(Infinity),
    handingIn: ref(false),
    late: ref(0),
    offered: ref(0),
    elsewhere: ref(),
    stayOn() {},
    async load() {
      try {
        take.value = await call(
          api.GET('/assessments/{id}/preview', { params: { path: { id: assessment }, query: { seed: seed() } } }),
        )
        answers.value = merged(take.value.lines, {})
      } catch (e) {
        error.value = e as Error
      }
    },
    async begin() {},
    async handIn() {
      if (take.value) take.value = { ...take.value, state: 'handed in' }
      return true
    },
    answer: (line, response) => change(line, { response }),
    mark: (line, marked) => change(line, { marked }),
    answered: computed(() => answers.value.map(isAnswered)),
  }
}
