import { useEventListener, useIntervalFn } from '@vueuse/core'
import { onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { sheetKey } from '@/places/assessments/lines/lines'

const every = 8_000

/** Says which part of an assessment one has open, and who else is at it; what they change is read soon. */
export function usePresence(id: Ref<number>, part: Ref<string>) {
  const others = ref<Schemas['Present'][]>([])
  const say = (of: number, here: string) =>
    call(api.PUT('/assessments/{id}/presence', { params: { path: { id: of } }, body: { part: here }, keepalive: here === '' }))

  async function attend() {
    try {
      others.value = await say(id.value, part.value)
      if (others.value.length) void queries.invalidateQueries({ queryKey: sheetKey(id.value) })
    } catch {
      others.value = [] // a network that is away tells of nobody; the sheet says so itself
    }
  }
  const leave = (of: number) => void say(of, '').catch(() => undefined) // gone anyway

  watch([id, part], ([now], [before]) => {
    if (before !== now) leave(before)
    void attend()
  })
  void attend()
  useIntervalFn(attend, every)
  useEventListener(window, 'pagehide', () => leave(id.value))
  onBeforeUnmount(() => leave(id.value))
  return others
}
