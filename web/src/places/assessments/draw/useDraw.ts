import { computed, onBeforeUnmount, ref, type Ref } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import type { Sheet } from '@/places/assessments/lines/lines'

export type Draw = Schemas['Draw']
export type DrawQuestion = Schemas['DrawQuestion']

/** How often a draw that runs is looked at. */
const lookAgain = 400

/** One draw at a time: asked for, looked at while it runs, cancelled or placed. */
export function useDraw(sheet: Readonly<Ref<Sheet>>) {
  const draw = ref<Draw>()
  const error = ref<Error>()
  const asking = ref(false)
  let timer: ReturnType<typeof setTimeout> | undefined

  const path = () => ({ params: { path: { id: sheet.value.id, draw: draw.value!.id } } })

  async function guarded(f: () => Promise<Draw>) {
    clearTimeout(timer)
    try {
      draw.value = await f()
      error.value = undefined
      if (draw.value.state === 'running') timer = setTimeout(look, lookAgain)
    } catch (e) {
      error.value = e as Error
    }
  }
  const look = () => guarded(() => call(api.GET('/assessments/{id}/draws/{draw}', path())))

  async function ask(question: DrawQuestion) {
    asking.value = true
    draw.value = undefined
    await guarded(() => call(api.POST('/assessments/{id}/draws', { params: { path: { id: sheet.value.id } }, body: question })))
    asking.value = false
  }
  const cancel = () => guarded(() => call(api.DELETE('/assessments/{id}/draws/{draw}', path())))

  onBeforeUnmount(() => {
    clearTimeout(timer)
    // A draw that nobody waits for any more is not worth a core.
    if (draw.value?.state === 'running') void call(api.DELETE('/assessments/{id}/draws/{draw}', path())).catch(() => undefined)
  })
  const running = computed(() => asking.value || draw.value?.state === 'running')
  return { draw, error, running, ask, cancel }
}
