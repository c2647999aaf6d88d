import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { ProblemError, queries } from '@/contract/client'
import type { Session } from '@/contract/session'

/** How long typing rests before it is sent, and how long what did not get there waits, in ms. */
const pause = 600
const retry = 4_000

/** What was typed and is not on the server yet, as this browser holds it. */
interface Held {
  typed: string
  kept: string // what it was typed over
  seen: string // as the server had it then
  version: number
}

interface Options<T> {
  /** Names what is typed in the browser's store. */
  name: string
  /** What the server has, as this screen knows it. */
  there: () => { value: T; version: number }
  /** Sends a value that was typed over a version; `there` tells then what the server has. */
  put: (value: T, version: number) => Promise<unknown>
  /** Reads anew what the server has, once it has said that somebody was quicker. */
  reread?: () => Promise<unknown>
  editable?: () => boolean
  /** Whether what is typed can be sent as it is; while it cannot, it waits in the browser. */
  whole?: (value: T) => boolean
  /** What can be sent of a value that is not whole, if anything. */
  sound?: (value: T) => T | undefined
}

/**
 * What is typed is kept by itself, on the version that it was typed over: where
 * somebody else changed the same meanwhile, both stand until the person says which.
 * Until it is on the server the browser holds it: a closed tab, a reload or a dead
 * network loses nothing. This is the one way in which screens save by themselves.
 */
export function useKept<T>({ name, there, put, reread, editable = () => true, whole = () => true, sound }: Options<T>) {
  const value = ref(copy(there().value)) as Ref<T>
  const clash = ref(false)
  const error = ref<Error>()
  const waiting = ref(false)
  const sending = ref(false)
  let kept = JSON.stringify(value.value) // as this screen last sent or took it
  let seen = read() // as the server last had it
  let version = there().version

  const typed = () => JSON.stringify(value.value)
  function read() {
    return JSON.stringify(there().value)
  }

  // Who types is part of the name: on a shared device nobody finds what another left.
  const person = queries.getQueryData<Session>(['session'])?.personId ?? 0
  const place = `pineledger/typed/${person}/${name}`
  let held = true
  function hold() {
    waiting.value = typed() !== kept
    try {
      if (waiting.value) localStorage.setItem(place, JSON.stringify({ typed: typed(), kept, seen, version } satisfies Held))
      else localStorage.removeItem(place)
      held = true
    } catch {
      held = false // the browser's store is full: leaving the page asks first
    }
  }

  let timer: ReturnType<typeof setTimeout> | undefined
  function later(ms: number) {
    clearTimeout(timer)
    timer = setTimeout(() => void keep(), ms)
  }

  function takeTheirs() {
    value.value = copy(there().value)
    kept = typed()
    asSeen()
  }
  function asSeen() {
    seen = read()
    version = there().version
    clash.value = false
    error.value = undefined
    hold()
  }
  function keepMine() {
    asSeen()
    return keep()
  }
  /** Gives up what is typed, whose place is gone. */
  function forget() {
    clearTimeout(timer)
    kept = typed()
    hold()
  }

  function compare() {
    if (sending.value) return
    clash.value = false
    if (read() === seen) version = there().version
    else if (typed() === kept || typed() === read()) takeTheirs()
    else clash.value = true
  }

  const before = localStorage.getItem(place)
  if (before && editable()) {
    const mine = JSON.parse(before) as Held
    value.value = JSON.parse(mine.typed) as T
    ;({ kept, seen, version } = mine)
    compare()
    hold()
    if (waiting.value) later(pause)
  }
  watch(() => `${there().version} ${read()}`, compare)
  /** What would be sent now; undefined while nothing can be. */
  const sendable = () => (whole(value.value) ? typed() : (JSON.stringify(sound?.(value.value)) as string | undefined))
  watch(
    [value, () => editable() && whole(value.value)],
    () => {
      hold()
      if (waiting.value) later(pause)
    },
    { deep: true },
  )

  let queue: Promise<unknown> = Promise.resolve()
  /** Sends what is typed; true when the server has it. */
  function keep(): Promise<boolean> {
    clearTimeout(timer)
    const run = queue.then(async () => {
      const now = typed()
      if (now === kept) return true
      const what = sendable()
      if (clash.value || !editable() || what === undefined) return false
      if (what !== now && (what === kept || what === seen)) return false // the rest waits in the browser
      sending.value = true
      try {
        await put(JSON.parse(what) as T, version)
        kept = what
        asSeen()
        return what === now
      } catch (e) {
        error.value = e as Error
        if (reread && isProblem(e, (status) => status === 409)) await reread().catch(() => undefined) // said already
        // What the server refused waits for other words; what did not get there goes again by itself.
        if (isProblem(e, (status) => status === 0 || status >= 500)) later(retry)
        return false
      } finally {
        sending.value = false
        compare() // somebody else's change may have come while this was sent
      }
    })
    queue = run
    return run
  }
  useEventListener('online', () => void keep())
  useEventListener(window, 'beforeunload', (e) => {
    if (waiting.value && !held) e.preventDefault()
  })
  onBeforeUnmount(() => {
    clearTimeout(timer)
    void keep()
  })

  const state = computed(() => {
    if (error.value)
      return isProblem(error.value, (status) => status > 0) ? 'Not saved' : 'Not saved yet, will send when the network is back'
    return waiting.value || sending.value ? 'Saving…' : 'Saved'
  })

  return { value, clash, error, state, sending, takeTheirs, keepMine, keep, forget }
}

function copy<T>(v: T): T {
  return JSON.parse(JSON.stringify(v)) as T
}

function isProblem(e: unknown, of: (status: number) => boolean) {
  return e instanceof ProblemError && of(e.status)
}
