import { useDebouncedRefHistory, useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { api, call, ProblemError, type Schemas } from '@/contract/client'

type Draft = Schemas['ItemDraft']
export interface Typed {
  document: Draft['document']
  meta: Draft['meta']
}

const copy = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T

/** How long typing rests before it is sent, and how long a failed sending waits, in ms. */
const pause = 600
const retry = 4_000

/**
 * An item while it is written: what is typed is kept by itself, can be undone, and
 * is never written over what another tab has kept.
 */
export function useDraft(first: Draft) {
  const typed = ref<Typed>(copy({ document: first.document, meta: first.meta }))
  /** What the server made of it last: its student's side, problems, examples. */
  const seen = ref<Draft>(first)
  const error = ref<ProblemError>()
  const clash = ref(false)
  const sending = ref(false)
  let kept = JSON.stringify(typed.value)

  const history = useDebouncedRefHistory(typed, { deep: true, debounce: 350, capacity: 200, clone: copy })
  const waiting = ref(false)
  let timer: ReturnType<typeof setTimeout> | undefined

  function later(ms: number) {
    clearTimeout(timer)
    timer = setTimeout(() => void keep(), ms)
  }
  watch(
    typed,
    () => {
      waiting.value = JSON.stringify(typed.value) !== kept
      if (waiting.value) later(pause)
    },
    { deep: true },
  )

  let queue: Promise<unknown> = Promise.resolve()
  /** Sends what is typed; true when the server has it. */
  function keep(): Promise<boolean> {
    const run = queue.then(async () => {
      clearTimeout(timer)
      const now = JSON.stringify(typed.value)
      if (now === kept) return true
      if (clash.value) return false
      sending.value = true
      try {
        seen.value = await call(
          api.PUT('/item-drafts/{id}', {
            params: { path: { id: first.id }, header: { 'If-Match': seen.value.version } },
            body: JSON.parse(now) as Typed,
          }),
        )
        kept = now
        waiting.value = JSON.stringify(typed.value) !== kept
        error.value = undefined
        return true
      } catch (e) {
        error.value = e as ProblemError
        if (error.value.status === 409) clash.value = true
        else if (error.value.status === 0 || error.value.status >= 500) later(retry)
        return false
      } finally {
        sending.value = false
      }
    })
    queue = run
    return run
  }

  /** Another tab has kept something else: take that, or write over it. */
  async function settle(mine: boolean) {
    const theirs = await call(api.GET('/item-drafts/{id}', { params: { path: { id: first.id } } }))
    seen.value = theirs
    clash.value = false
    error.value = undefined
    if (mine) {
      kept = ''
      await keep()
      return
    }
    typed.value = copy({ document: theirs.document, meta: theirs.meta })
    kept = JSON.stringify(typed.value)
    waiting.value = false
  }

  const state = computed(() => {
    if (clash.value) return 'Changed in another tab'
    if (error.value) return error.value.status ? 'Not kept' : 'Not kept yet, will send when the network is back'
    return waiting.value || sending.value ? 'Keeping…' : 'Kept'
  })

  useEventListener(window, 'beforeunload', (e) => {
    if (waiting.value) e.preventDefault()
  })
  onBeforeUnmount(() => void keep())

  return { typed, seen, error, clash, state, keep, settle, history }
}
