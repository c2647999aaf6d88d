import { computed, ref, type Ref } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { useOutbox } from '@/kept/outbox'
import { nextNumber } from './answers'

export type Aside = Schemas['Aside']
export type Tool = Aside['tool']
const order: Tool[] = ['highlights', 'strikes', 'notes', 'drawing', 'screen']
const keyOf = (line: number, tool: Tool) => line * 10 + order.indexOf(tool)

/**
 * What a student has beside the answers: highlights, what is ruled out, the scratch pad, how the screen is. It is kept
 * like an answer, on this device at once and on the server soon, so that it is there on another device too; none of it is scored.
 */
export function useAsides(take: Ref<Schemas['Take'] | undefined>, unkept: boolean) {
  const here = ref<Record<number, Aside>>({})
  const outbox = useOutbox<Aside>({
    name: () => (take.value && !unkept ? `pine-ledger-asides-${take.value.attemptId}` : ''),
    send: (part, leaving) =>
      call(
        api.PUT('/my/attempts/{id}/asides', {
          params: { path: { id: take.value!.attemptId } },
          body: { asides: Object.values(part) },
          keepalive: leaving,
        }),
      ),
    // What the server will not have, as after the hand-in, is worth nothing later.
    refused: () => true,
    after: 800,
  })

  /** Takes up what the server has, and what this device could not send. */
  function open() {
    const kept = take.value?.asides ?? []
    // All that there could be: what waits here is newer than nothing.
    const lines = [0, ...(take.value?.lines ?? []).map((l) => l.line)]
    const numbers = {
      ...Object.fromEntries(lines.flatMap((line) => order.map((tool) => [keyOf(line, tool), 0]))),
      ...Object.fromEntries(kept.map((a) => [keyOf(a.line, a.tool), a.number])),
    }
    const waiting = unkept ? {} : outbox.open(numbers)
    here.value = { ...here.value, ...Object.fromEntries(kept.map((a) => [keyOf(a.line, a.tool), a])), ...waiting }
  }

  function get<T>(tool: Tool, line: number, none: T): T {
    try {
      return JSON.parse(here.value[keyOf(line, tool)]?.value ?? 'null') ?? none
    } catch {
      return none
    }
  }

  function put(tool: Tool, line: number, value: unknown) {
    const key = keyOf(line, tool)
    const aside: Aside = {
      tool,
      line,
      value: JSON.stringify(value),
      number: nextNumber(here.value[key]?.number ?? 0, Date.now()),
    }
    here.value = { ...here.value, [key]: aside }
    if (!unkept && take.value?.state === 'working') outbox.put(key, aside)
  }

  return { open, get, put, any: computed(() => Object.keys(here.value).length > 0) }
}

export type Asides = ReturnType<typeof useAsides>
