import { onBeforeUnmount, ref, watch, type Ref } from 'vue'
import type { Sheet } from './lines'

/**
 * What is typed of one part of a sheet. It is kept by itself, on the version that it
 * was typed over: where somebody else changed the same part meanwhile, both stand
 * until the person says which.
 */
export function useTyped<T>(
  sheet: Readonly<Ref<Sheet>>,
  part: (sheet: Sheet) => T,
  put: (value: T, version: number) => Promise<boolean>,
  editable: Readonly<Ref<boolean>>,
) {
  const read = () => JSON.stringify(part(sheet.value))
  const value = ref(part(sheet.value)) as Ref<T>
  const clash = ref(false)
  let kept = JSON.stringify(value.value) // as this screen last sent or took it
  let seen = read() // as the server last had it
  let version = sheet.value.version
  let sending = false

  const typed = () => JSON.stringify(value.value)

  function takeTheirs() {
    value.value = part(sheet.value)
    kept = typed()
    seen = read()
    version = sheet.value.version
    clash.value = false
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

  let queue: Promise<unknown> = Promise.resolve()
  function keep() {
    const run = queue.then(async () => {
      const now = typed()
      if (now === kept || clash.value || !editable.value) return
      sending = true
      const ok = await put(JSON.parse(now) as T, version)
      sending = false
      if (!ok) return compare() // somebody else's change may have come while this was sent
      kept = now
      seen = read()
      version = sheet.value.version
    })
    queue = run
    return run
  }
  onBeforeUnmount(keep)

  return { value, clash, takeTheirs, keepMine, keep }
}
