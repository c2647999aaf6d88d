import { useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, onUnmounted, ref, shallowRef, type Ref } from 'vue'
import { api, call, ProblemError, type Schemas } from '@/contract/client'
import { clockTime } from '@/contract/format'
import { useChanges } from './useChanges'
import { batches, isAnswered, merged, nextNumber, unsentOf, type LineAnswer, type Response, type Unsent } from './answers'

const flushAfter = 250
const retryAfter = 3_000

const somebodyElse =
  'Somebody else has signed in on this device. What you answered before is saved; what is not yet waits here until you sign in again.'

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
  const offline = ref(false)
  const gone = ref(false) // somebody else has signed in here, or nobody is
  const sending = ref(false)
  let ahead = 0 // how far the server's clock is ahead of this device's
  let timer: ReturnType<typeof setTimeout> | undefined

  const storageKey = () => `pine-ledger-attempt-${take.value?.attemptId}`
  const serverNow = () => Date.now() + ahead

  function readUnsent(): Unsent {
    try {
      return JSON.parse(localStorage.getItem(storageKey()) ?? '{}') as Unsent
    } catch {
      return {}
    }
  }
  function writeUnsent() {
    const unsent = unsentOf(answers.value)
    if (Object.keys(unsent).length) localStorage.setItem(storageKey(), JSON.stringify(unsent))
    else localStorage.removeItem(storageKey())
  }

  function took(now: Schemas['Take']) {
    take.value = now
    ahead = Date.parse(now.now) - Date.now()
    stopped.value = now.state === 'handed in' ? '' : now.stopped
    if (now.state === 'handed in') {
      localStorage.removeItem(storageKey())
    } else if (now.lines.length) {
      // Behind a shut door no lines come; what was answered stays as it is here.
      answers.value = merged(now.lines, { ...readUnsent(), ...unsentOf(answers.value) })
      if (Object.keys(unsentOf(answers.value)).length) flushSoon()
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
    answers.value[line - 1] = { ...before, ...part, number: nextNumber(last, serverNow()) }
    writeUnsent()
    flushSoon()
  }

  function flushSoon(after = flushAfter) {
    clearTimeout(timer)
    timer = setTimeout(() => void flush(), after)
  }

  /** Sends what is not kept yet; gives whether everything is on the server's disk. */
  async function flush(leaving = false): Promise<boolean> {
    clearTimeout(timer)
    const unsent = unsentOf(answers.value)
    if (!take.value || !Object.keys(unsent).length) return true
    if (sending.value && !leaving) {
      flushSoon()
      return false
    }
    sending.value = true
    try {
      for (const batch of batches(unsent)) {
        // What stands here by its place is sent by its number on the form.
        const body = { answers: batch.map((at) => ({ line: take.value!.lines[at - 1]!.line, ...unsent[at]! })) }
        const result = await call(
          api.PUT('/my/attempts/{id}/answers', { params: { path: { id: take.value.attemptId } }, body, keepalive: leaving }),
        )
        for (const line of batch) {
          // What is refused can never be kept: it is set aside here and said, and holds up nothing else.
          const a = answers.value[line - 1]
          if (a) a.kept = Math.max(a.kept, unsent[line]!.number)
        }
        if (result.refused.length) error.value = new Error(result.refused.map((r) => r.message).join(' '))
        savedAt.value = result.savedAt
        offline.value = false
        writeUnsent()
      }
      return Object.keys(unsentOf(answers.value)).length === 0
    } catch (e) {
      if (e instanceof ProblemError && e.status === 409) {
        stopped.value = e.message
        void load()
      } else if (e instanceof ProblemError && [401, 403, 404].includes(e.status)) {
        error.value = (await isStillMe()) ? e : new Error(somebodyElse)
        gone.value = true
      } else if (e instanceof ProblemError && e.status === 422) {
        error.value = e
      } else {
        offline.value = true
        flushSoon(retryAfter)
      }
      return false
    } finally {
      sending.value = false
    }
  }

  /** Whether this browser is still signed in as whose work this is. */
  async function isStillMe() {
    const session = await call(api.GET('/session')).catch(() => undefined)
    return !session?.signedIn || session.personId === take.value?.studentId
  }

  async function handIn(): Promise<boolean> {
    if (!take.value || !(await flush())) return false
    try {
      took(await call(api.POST('/my/attempts/{id}/hand-in', { params: { path: { id: take.value.attemptId } } })))
      return true
    } catch (e) {
      error.value = e as Error
      return false
    }
  }

  const now = ref(Date.now())
  useIntervalFn(() => (now.value = Date.now()), 1_000)
  const left = computed(() => (take.value ? Date.parse(take.value.end) - (now.value + ahead) : 0))

  // A door that moves is told at once, also to who is not saving; a time that ran out shows.
  useChanges([sitting], () => void load())
  useIntervalFn(() => {
    if (take.value?.state === 'working' && !stopped.value && left.value < -1_000) void load()
  }, 5_000)
  useEventListener(window, 'online', () => void flush())
  useEventListener(window, 'pagehide', () => void flush(true))
  onUnmounted(() => void flush(true))

  const saved = computed(() => {
    const waiting = answers.value.some((a) => a.number > a.kept)
    if (gone.value && waiting) return 'Not saved: sign in again to send it'
    if (offline.value && waiting) return 'Not saved yet, will send when the network is back'
    if (waiting) return 'Saving…'
    return savedAt.value ? `Saved ${clockTime(savedAt.value)}` : ''
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
}
