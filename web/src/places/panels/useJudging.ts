import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, call, queries } from '@/contract/client'
import { useChanges } from '@/contract/useChanges'
import { useOutbox } from '@/kept/outbox'
import * as panelQueries from '@/queries/panels'

/** One rating or mark as it waits on this device. */
interface Kept {
  round: number
  cut: number
  line: number
  value: number
  number: number
}

/** Nothing given. */
export const none = -1

/** A round, a cut and a line as one number. */
const place = (round: number, cut: number, line: number) => (round * 100 + cut) * 10_000 + line

/**
 * What one judge gives in a panel. It shows at once, is kept on this device, and is sent soon; it counts as saved when the server
 * says that it is on disk. The round that is open is the newest; once it is closed it can be read.
 */
export function useJudging(id: number) {
  const asked = useQuery(panelQueries.asked(id))
  const work = useQuery(panelQueries.work(id))
  // The chair moves on.
  useChanges([`panels/${id}`], () => void work.refetch())
  const error = ref<Error>()
  const path = { path: { id } }

  const round = computed(() => work.data.value?.rounds.at(-1))
  const open = computed(() => !!round.value && !round.value.closedAt && !work.data.value?.left)
  const editable = computed(() => open.value && !round.value?.done)
  /** The newest round whose feedback is open. */
  const told = computed(() => work.data.value?.rounds.findLast((r) => r.feedbackAt))
  const marks = computed(() => asked.data.value?.panel.method === 'orderedItems')

  let last = 0
  const outbox = useOutbox<Kept>({
    name: () => `pine-ledger-panel-${id}`,
    turns: (waiting) => (Object.keys(waiting).length ? [Object.keys(waiting).map(Number)] : []),
    send: async (part) => {
      // Each round has its own: what was given in one is never sent to the next.
      for (const number of new Set(Object.values(part).map((k) => k.round))) {
        const own = Object.values(part).filter((k) => k.round === number)
        const given = own.map(({ cut, line, value }) => ({ cut, line, value }))
        await call(api.PUT('/panels/{id}/given/{round}', { params: { path: { id, round: number } }, body: { given } }))
      }
      error.value = undefined
      await work.refetch() // before what waited is forgotten, so that nothing flickers
    },
    // What the server refuses is taken back and said.
    refused: async (e) => {
      error.value = e
      await work.refetch()
      return true
    },
  })
  // What an earlier page of this device could not send goes now.
  watch(
    () => [round.value?.number, !!asked.data.value] as const,
    ([number, known]) => number && known && outbox.open(places(number)),
    { immediate: true },
  )
  function places(rounds: number): Record<number, number> {
    const a = asked.data.value!
    const lines = marks.value ? 1 : a.lines.length
    const out: Record<number, number> = {}
    for (let r = 1; r <= rounds; r++)
      for (let c = 0; c < a.cuts.length; c++) for (let l = 0; l < lines; l++) out[place(r, c, l)] = 0
    return out
  }

  /** What stands of a cut and a line: what was just given, else what the server has. A mark has line 0. */
  function valueOf(cut: number, line: number) {
    const r = round.value
    if (!r) return none
    return (
      outbox.waiting.value[place(r.number, cut, line)]?.value ?? (marks.value ? r.marks[cut] : r.ratings[cut]?.[line]) ?? none
    )
  }
  function give(cut: number, line: number, value: number) {
    if (!editable.value || valueOf(cut, line) === value) return
    const number = round.value!.number
    last = Math.max(last + 1, Date.now())
    outbox.put(place(number, cut, line), { round: number, cut, line, value, number: last })
  }

  /** How many are given of all that are asked, with those that are on their way. */
  const given = computed(() => {
    const a = asked.data.value
    if (!a) return { given: 0, of: 0 }
    const lines = marks.value ? 1 : a.lines.length
    let n = 0
    for (let c = 0; c < a.cuts.length; c++) for (let l = 0; l < lines; l++) if (valueOf(c, l) !== none) n++
    return { given: n, of: a.cuts.length * lines }
  })
  const saved = computed(() => {
    if (outbox.away.value) return 'Not saved yet, will send when the network is back'
    return Object.keys(outbox.waiting.value).length ? 'Saving…' : 'Saved'
  })

  async function finish(done: boolean) {
    try {
      if (done && !(await outbox.flush())) return
      await call(
        api.PUT('/panels/{id}/given/{round}/done', { params: { path: { id, round: round.value!.number } }, body: { done } }),
      )
      error.value = undefined
    } catch (e) {
      error.value = e as Error
    }
    await work.refetch()
    void queries.invalidateQueries({ queryKey: ['panels'], exact: true })
  }

  const noteOf = (line: number) => work.data.value?.notes.find((n) => n.line === line)?.words ?? ''
  async function putNote(line: number, words: string) {
    try {
      await call(api.PUT('/panels/{id}/notes/{line}', { params: { path: { ...path.path, line } }, body: { words } }))
      await work.refetch()
    } catch (e) {
      error.value = e as Error
    }
  }

  return { asked, work, round, open, editable, told, marks, error, valueOf, give, given, saved, finish, noteOf, putNote }
}
