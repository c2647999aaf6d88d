import { watchDebounced } from '@vueuse/core'
import { onScopeDispose, ref, type Ref } from 'vue'
import { api, call, type Schemas } from '@/contract/client'

export type DrawPool = Schemas['DrawPool']

/** How long typing rests before the pool is counted anew, in milliseconds. */
const rest = 400

/** What a draw would choose from, counted while the question is being put together. */
export function usePool(assessment: Readonly<Ref<number>>, question: () => Schemas['DrawQuestion'] | undefined) {
  const pool = ref<DrawPool>()
  const trouble = ref('')
  let asked = 0
  let closed = false
  onScopeDispose(() => (closed = true))

  async function look() {
    if (closed) return
    const body = question()
    const mine = ++asked
    if (!body) {
      pool.value = undefined
      trouble.value = ''
      return
    }
    try {
      const found = await call(api.POST('/assessments/{id}/draw-pool', { params: { path: { id: assessment.value } }, body }))
      if (mine !== asked) return // a later question is on its way
      pool.value = found
      trouble.value = ''
    } catch (e) {
      if (mine !== asked) return
      pool.value = undefined
      trouble.value = (e as Error).message
    }
  }
  // The seed and the way of drawing change nothing of the pool.
  const text = () => JSON.stringify({ ...question(), seed: 0, mode: 'best' })
  watchDebounced(text, look, { debounce: rest, immediate: true })
  return { pool, trouble }
}
