import { computed, ref, shallowRef } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { isAnswered, merged, type LineAnswer, type Response } from './answers'
import type { Attempt } from './useAttempt'
import { t } from '@/words'

/** Work that nobody keeps: an assessment tried by staff, or practiced with after its window. */
function useUnkept(
  look: () => Promise<Schemas['Take']>,
  done: (answers: Schemas['Answer'][]) => Promise<Schemas['OwnFeedback'] | undefined>,
): Attempt {
  const take = shallowRef<Schemas['Take']>()
  const answers = ref<LineAnswer[]>([])
  const error = ref<Error>()
  const told = shallowRef<Schemas['OwnFeedback']>()

  function change(line: number, part: Partial<LineAnswer>) {
    const before = answers.value[line - 1]
    if (before && !before.done) answers.value[line - 1] = { ...before, ...part, number: before.number + 1 }
  }
  async function tried<T>(ask: () => Promise<T>): Promise<T | undefined> {
    try {
      error.value = undefined
      return await ask()
    } catch (e) {
      error.value = e as Error
      return undefined
    }
  }
  return {
    take,
    answers,
    error,
    told,
    stopped: ref(''),
    saved: computed(() => t('trial.kept')),
    left: ref(Infinity),
    bell: ref(undefined),
    handingIn: ref(false),
    late: ref(0),
    offered: ref(0),
    elsewhere: ref(),
    stayOn() {},
    async load() {
      const now = await tried(look)
      if (!now) return
      take.value = now
      answers.value = merged(now.lines, {})
    },
    async begin() {
      return true
    },
    async handIn() {
      const now = take.value
      if (!now) return false
      const given = answers.value.map(({ response, marked }, i) => ({
        line: now.lines[i]!.line,
        number: i + 1,
        response,
        marked,
      }))
      const came = await tried(async () => ({ told: await done(given) }))
      if (!came) return false
      told.value = came.told
      take.value = { ...now, state: 'handed in' }
      return true
    },
    async rest() {},
    async leave(line) {
      change(line, { done: true })
      return undefined
    },
    answer: (line, response: Response) => change(line, { response }),
    mark: (line, marked) => change(line, { marked }),
    answered: computed(() => answers.value.map(isAnswered)),
  }
}

/** An assessment sat by oneself, exactly as a student gets it. */
export const useTrial = (assessment: number, seed: () => number): Attempt =>
  useUnkept(
    () => call(api.GET('/assessments/{id}/preview', { params: { path: { id: assessment }, query: { seed: seed() } } })),
    async () => undefined,
  )

/** One's own assessment once more, after its window; it tells what it came to as far as feedback is due. */
export function usePractice(sitting: number): Attempt {
  const path = { params: { path: { id: sitting } } }
  return useUnkept(
    () => call(api.GET('/my/sittings/{id}/practice', path)),
    (answers) => call(api.POST('/my/sittings/{id}/practice', { ...path, body: { answers } })),
  )
}
