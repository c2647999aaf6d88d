import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { ProblemError, queries } from '@/contract/client'
import type { Session } from '@/contract/session'
import type { Sheet } from '@/places/assessments/lines/lines'

/** What was typed and is not on the server yet, as this browser holds it. */
interface Draft {
  typed: string
  kept: string // what it was typed over
  seen: string // as the server had it then
  version: number
}

/** How long to wait before what could not be sent is sent again. */
const againAfter = 4_000

interface Options<T> {
  /** Names the part in the browser's store. */
  name: string
  part: (sheet: Sheet) => T
  put: (value: T, version: number) => Promise<boolean>
  editable: Readonly<Ref<boolean>>
  error: Readonly<Ref<Error | undefined>>
  /** Whether what is typed can be sent as it is; while it cannot, it waits in the browser. */
  whole?: (value: T) => boolean
}

/**
 * What is typed of one part of a sheet. It is kept by itself, on the version that it
 * was typed over: where somebody else changed the same part meanwhile, both stand
 * until the person says which. Until it is on the server the browser holds it: a
 * closed tab, a reload or a dead network loses nothing.
 */
export function useTyped<T>(sheet: Readonly<Ref<Sheet>>, { name, part, put, editable, error, whole }: Options<T>) {
  const read = () => JSON.stringify(part(sheet.value))
  const value = ref(part(sheet.value)) as Ref<T>
  const clash = ref(false)
  let kept = JSON.stringify(value.value) // as this screen last sent or took it
  let seen = read() // as the server last had it
  let version = sheet.value.version
  let sending = false

  const typed = () => JSON.stringify(value.value)

  // Who types is part of the name: on a shared device nobody finds what another left.
  const person = queries.getQueryData<Session>(['session'])?.personId ?? 0
  const place = `pineledger/typed/${person}/${sheet.value.id}/${name}`
  function hold() {
    if (typed() === kept) localStorage.removeItem(place)
    else localStorage.setItem(place, JSON.stringify({ typed: typed(), kept, seen, version } satisfies Draft))
  }
  const held = localStorage.getItem(place)
  if (held && editable.value) {
    const draft = JSON.parse(held) as Draft
    value.value = JSON.parse(draft.typed) as T
    ;({ kept, seen, version } = draft)
    if (read() === draft.typed)
      takeTheirs() // it had come through after all
    else compare()
  }

  function takeTheirs() {
    value.value = part(sheet.value)
    kept = typed()
    seen = read()
    version = sheet.value.version
    clash.value = false
    hold()
  }

  function keepMine() {
    seen = read()
    version = sheet.value.version
    clash.value = false
    return keep()
  }

  function compare() {
    if (sending) return
    if (read() === seen) version = sheet.value.version
    else if (typed() === kept) takeTheirs()
    else clash.value = true
  }
  watch(() => sheet.value.version, compare)
  watch(value, hold, { deep: true })

  let again: ReturnType<typeof setTimeout> | undefined
  let queue: Promise<unknown> = Promise.resolve()
  function keep() {
    clearTimeout(again)
    const run = queue.then(async () => {
      const now = typed()
      if (now === kept || clash.value || !editable.value || (whole && !whole(value.value))) return
      sending = true
      const ok = await put(JSON.parse(now) as T, version)
      sending = false
      if (!ok) {
        compare() // somebody else's change may have come while this was sent
        // What the server refused waits for other words; what did not get there goes again by itself.
        if (!(error.value instanceof ProblemError) || error.value.status === 0 || error.value.status >= 500)
          again = setTimeout(keep, againAfter)
        return
      }
      kept = now
      seen = read()
      version = sheet.value.version
      hold()
    })
    queue = run
    return run
  }
  useEventListener('online', keep)
  onBeforeUnmount(() => {
    clearTimeout(again)
    void keep()
  })

  return { value, clash, takeTheirs, keepMine, keep }
}
