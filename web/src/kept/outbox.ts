import { onScopeDispose, ref, type Ref } from 'vue'
import { ProblemError } from '@/contract/client'

/** What is numbered: later changes have higher numbers, and the server never puts a lower one over a higher one. */
interface Numbered {
  number: number
}
export type Waiting<V> = Record<number, V>

interface Options<V> {
  /** Names it in the browser's store; '' while it has no name yet. */
  name: () => string
  /** Sends some lines; done when the server has them on disk. leaving: the page is about to go. */
  send: (part: Waiting<V>, leaving: boolean) => Promise<unknown>
  /** Hears what the server refused; true gives those lines up, false keeps them for another time. */
  refused: (error: Error, part: Waiting<V>) => boolean | Promise<boolean>
  /** Which lines go together, turn by turn. */
  turns?: (waiting: Waiting<V>) => number[][]
  /** How long changes gather before they are sent, in ms; 0 sends each at once. */
  after?: number
}

/** How long what could not be sent waits before it goes again, in ms. */
const retry = 3_000

/**
 * What was answered or recorded on this device, by line, until the server says that it
 * is on disk. It outlives a reload and a dead network, and goes by itself.
 */
export function useOutbox<V extends Numbered>({ name, send, refused, turns = batches, after = 250 }: Options<V>) {
  const waiting = ref({}) as Ref<Waiting<V>>
  const away = ref<Away>('')
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<boolean> | undefined
  let closed = false

  function held(): Waiting<V> {
    try {
      return JSON.parse(localStorage.getItem(name()) ?? '{}') as Waiting<V>
    } catch {
      return {}
    }
  }
  function hold(now: Waiting<V>) {
    waiting.value = now
    if (!name()) return
    try {
      if (isEmpty(now)) localStorage.removeItem(name())
      else localStorage.setItem(name(), JSON.stringify(now))
    } catch {
      // The browser's store is full or shut: it waits on this page alone.
    }
  }

  function soon(ms: number) {
    clearTimeout(timer)
    if (!closed) timer = setTimeout(() => void flush(), ms)
  }

  /** Takes up what an earlier page could not send, but for what the server has newer by these numbers. */
  function open(numbers: Record<number, number>): Waiting<V> {
    const all = { ...held(), ...waiting.value }
    hold(only(all, (line, v) => v.number > (numbers[line] ?? Infinity)))
    if (!isEmpty(waiting.value)) soon(after)
    return waiting.value
  }

  function put(line: number, v: V) {
    hold({ ...waiting.value, [line]: v })
    if (after) soon(after)
    else void flush()
  }

  /** Sends what waits; true when everything is on the server's disk. */
  async function flush(leaving = false): Promise<boolean> {
    clearTimeout(timer)
    if (running && !leaving) {
      await running
      return flush()
    }
    const run = sendAll(leaving)
    if (!leaving) running = run
    try {
      return await run
    } finally {
      if (running === run) running = undefined
    }
  }
  async function sendAll(leaving: boolean): Promise<boolean> {
    for (const lines of turns(waiting.value)) {
      const part = only(waiting.value, (line) => lines.includes(line))
      try {
        await send(part, leaving)
        away.value = ''
      } catch (e) {
        away.value = awayOf(e)
        if (away.value) {
          soon(retry)
          return false
        }
        if (!(await refused(e as Error, part))) return false
      }
      hold(only(waiting.value, (line, v) => v.number > (part[line]?.number ?? 0)))
    }
    return isEmpty(waiting.value)
  }

  const onLine = () => void flush()
  const onLeave = () => void flush(true)
  window.addEventListener('online', onLine)
  window.addEventListener('pagehide', onLeave)
  onScopeDispose(() => {
    window.removeEventListener('online', onLine)
    window.removeEventListener('pagehide', onLeave)
    closed = true
    onLeave()
  })

  /** What waits here, also where nothing was opened. */
  const kept = () => ({ ...held(), ...waiting.value })

  return { waiting, away, open, put, flush, kept, clear: () => hold({}) }
}

/** The most that one sending holds, in bytes; the server takes two million. */
const mostSent = 1_000_000

/** Lines to send together: long essays of a day without a network go in several turns. */
export function batches(waiting: Waiting<unknown>): number[][] {
  const out: number[][] = []
  let size = Infinity
  for (const [line, v] of Object.entries(waiting)) {
    const bytes = new TextEncoder().encode(JSON.stringify(v)).length + 20
    if (size + bytes > mostSent) {
      out.push([])
      size = 0
    }
    out.at(-1)!.push(Number(line))
    size += bytes
  }
  return out
}

function only<V>(waiting: Waiting<V>, keep: (line: number, v: V) => boolean): Waiting<V> {
  return Object.fromEntries(Object.entries(waiting).filter(([line, v]) => keep(Number(line), v)))
}

function isEmpty(waiting: Waiting<unknown>) {
  return Object.keys(waiting).length === 0
}

/** Why nothing gets through just now: there is no network, or the server could not do it; '' for neither. */
export type Away = '' | 'network' | 'server'

/** Whether an error is one of being away. What the server refuses is not. */
export function awayOf(e: unknown): Away {
  if (!(e instanceof ProblemError) || e.status === 0) return 'network'
  return e.status === 429 || e.status >= 500 ? 'server' : ''
}
