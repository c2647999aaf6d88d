import { useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, ref, shallowRef, type Ref } from 'vue'
import { api, call, ProblemError, type Schemas } from '@/contract/client'
import { clockTime } from '@/contract/format'
import { awayOf, useOutbox } from '@/kept/outbox'
import { useChanges } from '@/contract/useChanges'
import { isAnswered, merged, nextNumber, type LineAnswer, type Response } from './answers'
import { device } from './device'
import { forget, rememberAnswers, remembered, rememberTake } from './remember'
import { t } from '@/words'

/** An answer as it waits here, with its line on the form. */
interface Kept extends LineAnswer {
  line: number
}
const sendable = ({ line, number, response, marked, done }: Kept) => ({ line, number, response, marked, ...(done && { done }) })

/** What the server refused, in the student's language: it words its own sentences for staff. */
function inStudentWords(e: unknown): Error {
  const status = e instanceof ProblemError ? e.status : 0
  if (status === 0) return new Error(t('trouble.network'))
  if (status === 401) return new Error(t('trouble.signedOut'))
  if (status === 403 || status === 404) return new Error(t('trouble.gone'))
  return new Error(t(status === 409 ? 'trouble.changed' : 'trouble.later'))
}

/** When another device was last at the attempt; later: this one came after it. */
export interface Elsewhere {
  at: string
  later: boolean
}

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
  const offered = ref(0) // of them, those that staff have by now
  const elsewhere = ref<Elsewhere>()
  let ahead = 0 // how far the server's clock is ahead of this device's
  let fromHere = false // what shows is what this tab remembers; the server was not reached yet
  let opened = Infinity // when this device came to the attempt, by the server's clock

  const serverNow = () => Date.now() + ahead

  const outbox = useOutbox<Kept>({
    name: () => (take.value ? `pine-ledger-attempt-${take.value.attemptId}` : ''),
    send: async (part, leaving) => {
      const result = await call(
        api.PUT('/my/attempts/{id}/answers', {
          params: { path: { id: take.value!.attemptId }, query: { device: device() } },
          // What an earlier release left here stands by its place alone.
          body: {
            answers: Object.entries(part).map(([at, a]) =>
              sendable({ ...a, line: a.line ?? take.value!.lines[Number(at) - 1]!.line }),
            ),
          },
          keepalive: leaving,
        }),
      )
      met(result.elsewhere, false)
      // What is refused can never be kept: it is set aside and said, and holds up nothing else.
      const items = result.refused.map((r) => take.value!.lines.findIndex((l) => l.line === r.line) + 1)
      error.value = items.length ? new Error(t('trouble.refused', { items: items.join(', ') }, items.length)) : undefined
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

  function took(now: Schemas['Take'], clock = Date.parse(now.now) - Date.now()) {
    take.value = now
    ahead = clock
    stopped.value = now.state === 'handed in' ? '' : now.stopped
    if (now.state === 'handed in') {
      late.value = Object.keys(outbox.kept()).length
      forget(sitting)
      wish(false)
      void offer()
    } else if (now.lines.length) {
      // Behind a shut door no lines come; what was answered stays as it is here.
      answers.value = merged(now.lines, outbox.open(Object.fromEntries(now.lines.map((l, i) => [i + 1, l.number]))))
      rememberTake(sitting, { take: now, ahead })
      rememberAnswers(sitting, answers.value)
      handingIn.value = !!localStorage.getItem(wishName())
    } else if (now.stopped) {
      forget(sitting) // behind a shut door a reload shows nothing of the items, with a network or without
    }
  }

  /** Gives staff what could not be sent before the end: they decide whether it counts. */
  async function offer() {
    const kept = Object.values(outbox.kept()).filter((a) => a.line)
    if (!kept.length || !take.value) return
    try {
      await call(
        api.PUT('/my/attempts/{id}/late-answers', {
          params: { path: { id: take.value.attemptId } },
          body: { answers: kept.map(sendable) },
        }),
      )
      offered.value = kept.length
      outbox.clear()
    } catch {
      // They stay on this device, as the screen says; the next look here offers them again.
    }
  }

  /** Another device is at this attempt too: the one that came later says so, and the earlier one when it hears of it. */
  function met(at: Schemas['Elsewhere'] | undefined, opening: boolean) {
    if (!at || (elsewhere.value && at.at <= elsewhere.value.at)) return
    const news = opening || Date.parse(at.at) > opened
    elsewhere.value = { at: at.at, later: opening }
    if (!opening && news) void load() // what was answered there shows here
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
      const kept = awayOf(e) === 'network' && !take.value ? remembered(sitting) : undefined
      if (kept) {
        took(kept.take, kept.ahead)
        fromHere = true
      } else if (!fromHere || awayOf(e) !== 'network') error.value = inStudentWords(e)
    }
  }
  /** Shows where things stand; it starts no clock. */
  const load = () =>
    look(async () => {
      const now = await call(
        api.GET('/my/sittings/{id}/attempt', { params: { path: { id: sitting }, query: { device: device() } } }),
      )
      fromHere = false
      if (!take.value) {
        opened = Date.parse(now.now)
        met(now.elsewhere, true)
      }
      return now
    })
  useEventListener(window, 'online', () => {
    if (fromHere) void load()
  })
  /** From here on the time counts. false: the code was not the room's. */
  async function begin(code = '') {
    let wrong: ProblemError | undefined
    await look(async () => {
      try {
        return await call(api.POST('/my/sittings/{id}/attempt', { ...path, body: { code } }))
      } catch (e) {
        if (e instanceof ProblemError && (e.status === 429 || e.of('/code'))) wrong = e
        throw e
      }
    })
    if (wrong) error.value = new Error(t(wrong.status === 429 ? 'intro.codeWait' : 'intro.codeWrong'))
    return !wrong
  }
  /** Takes a break, or ends it: the clock stands still meanwhile. */
  async function rest(resting: boolean) {
    await outbox.flush()
    await look(() =>
      call(api.PUT('/my/attempts/{id}/break', { params: { path: { id: take.value!.attemptId } }, body: { resting } })),
    )
  }

  function change(line: number, part: Partial<LineAnswer>) {
    const before = answers.value[line - 1]
    if (!before || before.done || stopped.value) return
    const last = Math.max(...answers.value.map((a) => a.number))
    const now = { ...before, ...part, number: nextNumber(last, serverNow()) }
    answers.value[line - 1] = now
    rememberAnswers(sitting, answers.value)
    outbox.put(line, { ...now, line: take.value!.lines[line - 1]!.line })
  }

  /** Leaves an item for good; gives what is told of it then, where anything is. */
  async function leave(line: number): Promise<Schemas['ItemFeedback'] | undefined> {
    change(line, { done: true })
    if (!take.value!.how.afterEach.length || !(await outbox.flush())) return undefined
    const params = { path: { id: take.value!.attemptId, line: take.value!.lines[line - 1]!.line } }
    return call(api.GET('/my/attempts/{id}/lines/{line}/feedback', { params })).catch(() => undefined)
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
        error.value = inStudentWords(e)
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

  /** Until the door closes by itself, in minutes, in the last five of them; undefined before. */
  const bell = computed(() => {
    const at = take.value?.doorClosesAt
    const minutes = at ? Math.ceil((Date.parse(at) - (now.value + ahead)) / 60_000) : 0
    return minutes > 0 && minutes <= 5 ? minutes : undefined
  })

  // A door that moves is told at once, also to who is not saving; a time that ran out shows.
  useChanges([`sittings/${sitting}`], () => void load())
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
    bell,
    load,
    begin,
    rest,
    leave,
    told: ref<'asked'>('asked'),
    handIn,
    handingIn,
    late,
    offered,
    elsewhere,
    stayOn: () => wish(false),
    answer: (line: number, response: Response) => change(line, { response }),
    mark: (line: number, marked: boolean) => change(line, { marked }),
    answered: computed(() => answers.value.map(isAnswered)),
  }
}

export type Attempt = Pick<
  ReturnType<typeof useAttempt>,
  'take' | 'answers' | 'error' | 'load' | 'begin' | 'rest' | 'leave' | 'handIn' | 'answer' | 'mark' | 'answered'
> & {
  /** What one may see of it afterwards; 'asked': the server tells. */
  told: Readonly<Ref<Schemas['OwnFeedback'] | 'asked' | undefined>>
  stopped: Readonly<Ref<string>>
  saved: Readonly<Ref<string>>
  left: Readonly<Ref<number>>
  bell: Readonly<Ref<number | undefined>>
  /** It is to be handed in, and waits for the network. */
  handingIn: Readonly<Ref<boolean>>
  /** Answers that were not sent before the end. */
  late: Readonly<Ref<number>>
  /** Of them, those that staff have by now. */
  offered: Readonly<Ref<number>>
  elsewhere: Readonly<Ref<Elsewhere | undefined>>
  stayOn: () => void
}
