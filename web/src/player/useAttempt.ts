import { useIntervalFn } from '@vueuse/core'
import { computed, ref, shallowRef, type Ref } from 'vue'
import { api, call, ProblemError, type Schemas } from '@/contract/client'
import { clockTime } from '@/contract/format'
import { awayOf, useOutbox } from '@/kept/outbox'
import { useChanges } from './useChanges'
import { isAnswered, merged, nextNumber, type LineAnswer, type Response } from './answers'
import { t } from '@/words'

/**
 * One student's work. What is answered is kept on this device at once and sent
 * soon; it counts as saved when the server says that it is on disk. Without a
 * network it waits here and is sent when there is one.
 */
export function useAttempt(sitting: number) {
  const take = shallowRef<Schemas['Take']>()
  const answers = ref<LineAnswer[]>([])
  const error = ref<Error>()
  const stopped = ref('')
  const savedAt = ref('')
  const gone = ref(false) // somebody else has signed in here, or nobody is
  const stuck = ref(false) // the server cannot take an answer as it is
  const handingIn = ref(false) // as soon as everything is sent
  const late = ref(0) // answers that were not sent before the end, and stay here
  let ahead = 0 // how far the server's clock is ahead of this device's

  const serverNow = () => Date.now() + ahead

  const outbox = useOutbox<LineAnswer>({
    name: () => (take.value ? `pine-ledger-attempt-${take.value.attemptId}` : ''),
    send: async (part, leaving) => {
      // What stands here by its place is sent by its number on the form.
      const sent = Object.entries(part).map(([at, a]) => ({ line: take.value!.lines[Number(at) - 1]!.line, ...a }))
      const result = await call(
        api.PUT('/my/attempts/{id}/answers', {
          params: { path: { id: take.value!.attemptId } },
          body: { answers: sent },
          keepalive: leaving,
        }),
      )
      // What is refused can never be kept: it is set aside and said, and holds up nothing else.
      error.value = result.refused.length ? new Error(result.refused.map((r) => r.message).join(' ')) : undefined
      savedAt.value = result.savedAt
      stuck.value = false
    },
    refused: async (e) => {
      const status = (e as ProblemError).status
      if (status === 409) {
        stopped.value = e.message
        void load()
      } else if ([401, 403, 404].includes(status)) {
        const other = !(await isStillMe())
        error.value = new Error(t(other ? 'trouble.somebodyElse' : status === 401 ? 'trouble.signedOut' : 'trouble.notYours'))
        gone.value = status === 401 || other
        stuck.value = !gone.value
      } else {
        error.value = new Error(t('trouble.notTaken'))
        stuck.value = true
      }
      return false
    },
  })

  function took(now: Schemas['Take']) {
    take.value = now
    ahead = Date.parse(now.now) - Date.now()
    stopped.value = now.state === 'handed in' ? '' : now.stopped
    if (now.state === 'handed in') {
      late.value = Object.keys(outbox.kept()).length // they stay on this device for the teacher to see
      wish(false)
    } else if (now.lines.length) {
      // Behind a shut door no lines come; what was answered stays as it is here.
      answers.value = merged(now.lines, outbox.open(Object.fromEntries(now.lines.map((l, i) => [i + 1, l.number]))))
      handingIn.value = !!localStorage.getItem(wishName())
    }
  }

  const wishName = () => `pine-ledger-hand-in-${take.value?.attemptId}`
  /** Keeps over a reload that the work is to be handed in. */
  function wish(yes: boolean) {
    handingIn.value = yes
    try {
      if (yes) localStorage.setItem(wishName(), 'yes')
      else localStorage.removeItem(wishName())
    } catch {
      // The browser's store is shut: this page alone knows.
    }
  }

  const path = { params: { path: { id: sitting } } }
  async function look(ask: () => Promise<Schemas['Take']>) {
    try {
      took(await ask())
      error.value = undefined
    } catch (e) {
      error.value = e as Error
    }
  }
  /** Shows where things stand; it starts no clock. */
  const load = () => look(() => call(api.GET('/my/sittings/{id}/attempt', path)))
  /** From here on the time counts. */
  const begin = () => look(() => call(api.POST('/my/sittings/{id}/attempt', path)))

  function change(line: number, part: { response?: Response; marked?: boolean }) {
    const before = answers.value[line - 1]
    if (!before || stopped.value) return
    const last = Math.max(...answers.value.map((a) => a.number))
    const now = { ...before, ...part, number: nextNumber(last, serverNow()) }
    answers.value[line - 1] = now
    outbox.put(line, now)
  }

  /** Whether this browser is still signed in as whose work this is. */
  async function isStillMe() {
    const session = await call(api.GET('/session')).catch(() => undefined)
    return !session?.signedIn || session.personId === take.value?.studentId
  }

  /** Hands in once everything is on the server's disk; without a network that waits, and is done later. */
  async function handIn(): Promise<boolean> {
    if (!take.value) return false
    wish(true)
    if (!(await outbox.flush())) {
      if (!outbox.away.value) wish(false) // what is refused has been said
      return false
    }
    try {
      took(await call(api.POST('/my/attempts/{id}/hand-in', { params: { path: { id: take.value.attemptId } } })))
      return true
    } catch (e) {
      if (!awayOf(e)) {
        wish(false)
        error.value = e as Error
      }
      return false
    }
  }
  let trying: Promise<boolean> | undefined
  useIntervalFn(() => {
    if (handingIn.value && !trying) trying = handIn().finally(() => (trying = undefined))
  }, 3_000)

  const now = ref(Date.now())
  useIntervalFn(() => (now.value = Date.now()), 1_000)
  const left = computed(() => (take.value ? Date.parse(take.value.end) - (now.value + ahead) : 0))

  // A door that moves is told at once, also to who is not saving; a time that ran out shows.
  useChanges([sitting], () => void load())
  useIntervalFn(() => {
    if (take.value?.state === 'working' && !stopped.value && left.value < -1_000) void load()
  }, 5_000)

  const saved = computed(() => {
    const waiting = Object.keys(outbox.waiting.value).length > 0
    if (gone.value && waiting) return t('save.signedOut')
    if (stuck.value && waiting) return t('save.not')
    if (outbox.away.value === 'server' && waiting) return t('save.soon')
    if (outbox.away.value && waiting) return t('save.away')
    if (waiting) return t('save.saving')
    return savedAt.value ? t('save.saved', { time: clockTime(savedAt.value) }) : ''
  })

  return {
    take,
    answers,
    error,
    stopped,
    saved,
    left,
    load,
    begin,
    handIn,
    handingIn,
    late,
    stayOn: () => wish(false),
    answer: (line: number, response: Response) => change(line, { response }),
    mark: (line: number, marked: boolean) => change(line, { marked }),
    answered: computed(() => answers.value.map(isAnswered)),
  }
}

export type Attempt = Pick<
  ReturnType<typeof useAttempt>,
  'take' | 'answers' | 'error' | 'load' | 'begin' | 'handIn' | 'answer' | 'mark' | 'answered'
> & {
  stopped: Readonly<Ref<string>>
  saved: Readonly<Ref<string>>
  left: Readonly<Ref<number>>
  /** It is to be handed in, and waits for the network. */
  handingIn: Readonly<Ref<boolean>>
  /** Answers that were not sent before the end. */
  late: Readonly<Ref<number>>
  stayOn: () => void
}
