import { useQuery } from '@tanstack/vue-query'
import { useEventListener } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import { api, call, queries, ProblemError, type Schemas } from '@/contract/client'
import type { Arrangement } from '@/places/assessments/lines/layout'
import { arranged, keepSheet, putLines, readSheet, sheetKey, type LineInput, type Sheet } from '@/places/assessments/lines/lines'

/** Whether two arrangements hold the same lines in the same places, whatever their versions. */
function sameLines(a: Arrangement, b: Arrangement): boolean {
  const flat = ({ lines, layout }: Arrangement) =>
    JSON.stringify([lines.map((l) => [l.itemId, l.versionId, l.points, l.part ?? 0, l.pool ?? 0]), layout])
  return flat(a) === flat(b)
}

/** An assessment opened, with its changes one after the other and undo for its lines. */
export function useSheet(id: Ref<number>) {
  const query = useQuery({ queryKey: computed(() => sheetKey(id.value)), queryFn: () => readSheet(id.value), staleTime: 2_000 })
  const sheet = computed(() => query.data.value)
  const editable = computed(() => !!sheet.value?.mayChange && sheet.value.state === 'draft')
  const waiting = ref(0) // changes that are not on the server yet
  const error = ref<Error>()
  /** What undo brings back, each with what it was changed into. */
  const past = ref<{ before: Arrangement; after: Arrangement }[]>([])
  /** Who else changed the lines while a change of one's own was under way; both stand. */
  const merged = ref('')

  let queue: Promise<unknown> = Promise.resolve()
  /** Runs one change after those before it, on the sheet as it then is. */
  function change(make: (sheet: Sheet) => Promise<Sheet>): Promise<boolean> {
    waiting.value++
    const run = queue.then(async () => {
      const now = queries.getQueryData<Sheet>(sheetKey(id.value))
      try {
        if (!now) return false
        keepSheet(await make(now))
        error.value = undefined
        return true
      } catch (e) {
        error.value = e as Error
        // Somebody was quicker: show what there is now beside the message.
        if (e instanceof ProblemError && e.status === 409) void query.refetch()
        return false
      } finally {
        waiting.value--
      }
    })
    queue = run
    return run
  }

  const saving = computed(() => waiting.value > 0)
  useEventListener(window, 'beforeunload', (e) => {
    if (saving.value) e.preventDefault()
  })

  /** Changes lines, parts and pools as one list, which undo brings back. Where somebody was quicker it is made again on what there is then. */
  function arrange(make: (now: Arrangement) => Arrangement) {
    merged.value = ''
    return change(async (first) => {
      for (let now = first, tries = 0; ; tries++) {
        const before = arranged(now)
        const next = make(before)
        if (next === before) return now
        try {
          const after = await putLines(now, next)
          past.value.push({ before, after: arranged(after) })
          if (tries) merged.value = `${now.changedBy} changed lines meanwhile. Their changes and yours both stand.`
          return after
        } catch (e) {
          if (!(e instanceof ProblemError) || e.status !== 409 || tries === 3) throw e
          now = await readSheet(id.value)
          if (now.state !== 'draft') throw e
        }
      }
    })
  }
  const changeLines = (make: (lines: LineInput[], now: Arrangement) => LineInput[]) =>
    arrange((now) => ({ ...now, lines: make(now.lines, now) }))

  function undo() {
    const last = past.value.pop()
    if (!last) return
    void change((now) => {
      if (!sameLines(arranged(now), last.after)) {
        past.value = []
        throw new ProblemError({
          status: 409,
          detail: `${now.changedBy} changed lines since. Undo would take that back too, so nothing was changed.`,
        })
      }
      return putLines(now, last.before)
    })
  }

  const at = (now: Sheet, version = now.version) => ({ params: { path: { id: now.id }, header: { 'If-Match': version } } })
  return {
    query,
    sheet,
    editable,
    saving,
    error,
    past,
    merged,
    arrange,
    changeLines,
    undo,
    /** What was typed over a version is refused where there is a newer one. */
    putOutline: (outline: Sheet['outline'], version: number) =>
      change((now) => call(api.PUT('/assessments/{id}/outline', { ...at(now, version), body: outline }))),
    putBlueprint: (rows: Schemas['BlueprintRowInput'][], version: number) =>
      change((now) => call(api.PUT('/assessments/{id}/blueprint', { ...at(now, version), body: { rows } }))),
    putKey: (rows: Schemas['KeyRow'][], version: number) =>
      change((now) => call(api.PUT('/assessments/{id}/key', { ...at(now, version), body: { rows } }))),
    putDocument: (file: File) =>
      change((now) =>
        call(
          api.PUT('/assessments/{id}/document', {
            params: { path: { id: now.id }, header: { 'If-Match': now.version }, query: { file: file.name } },
            body: file as unknown as string,
            bodySerializer: (body: unknown) => body as BodyInit,
            headers: { 'Content-Type': 'application/octet-stream' },
          }),
        ),
      ),
    putShares: (shares: Schemas['ShareInput'][], linked: number[]) =>
      change((now) => call(api.PUT('/assessments/{id}/shares', { ...at(now), body: { shares, linked } }))),
    makeLink: async (may: { copy: boolean; print: boolean }) => {
      const { secret } = await call(api.PUT('/assessments/{id}/link', { params: { path: { id: id.value } }, body: may }))
      await query.refetch()
      return secret
    },
    endLink: async () => {
      await call(api.DELETE('/assessments/{id}/link', { params: { path: { id: id.value } } }))
      await query.refetch()
    },
    restore: (number: number) =>
      change((now) =>
        call(
          api.POST('/assessments/{id}/history/{number}', {
            params: { path: { id: now.id, number }, header: { 'If-Match': now.version } },
          }),
        ),
      ),
    placeDraw: (draw: number) =>
      change(async (now) => {
        const before = arranged(now)
        const after: Sheet = await call(
          api.POST('/assessments/{id}/draws/{draw}/place', {
            params: { path: { id: now.id, draw }, header: { 'If-Match': now.version } },
          }),
        )
        past.value.push({ before, after: arranged(after) })
        return after
      }),
    chooseBands: (bandSetId: number) =>
      change((now) => call(api.PUT('/assessments/{id}/bands', { ...at(now), body: { bandSetId } }))),
    /** By which official table raw scores are converted to a scale; 0 for none. */
    chooseConversion: (tableId: number) =>
      change((now) => call(api.PUT('/assessments/{id}/conversion', { ...at(now), body: { tableId } }))),
    /** What is reported for ranges of scores; none lets scores speak for themselves. */
    putReported: (reported: Schemas['Reported'][]) =>
      change((now) => call(api.PUT('/assessments/{id}/reported', { ...at(now), body: { reported } }))),
    chooseMastery: (bandSetId: number) =>
      change((now) => call(api.PUT('/assessments/{id}/mastery', { ...at(now), body: { bandSetId } }))),
    /** Cuts of its own; none lets it have its set's again. */
    putCuts: (bands: Schemas['Band'][], rule?: Schemas['BandSet']['rule']) =>
      change((now) => call(api.PUT('/assessments/{id}/cuts', { ...at(now), body: { bands, rule } }))),
    shelve: (shelved: boolean) => change((now) => call(api.PUT('/assessments/{id}/shelf', { ...at(now), body: { shelved } }))),
    remove: async () => {
      await call(api.DELETE('/assessments/{id}', at(sheet.value!)))
      void queries.invalidateQueries({ queryKey: ['assessments'] })
    },
    seal: () => change((now) => call(api.POST('/assessments/{id}/seal', at(now)))),
    confirmAlignment: (item: number) =>
      change((now) => call(api.POST('/assessments/{id}/lines/{item}/alignment', { params: { path: { id: now.id, item } } }))),
    newEdition: () => change((now) => call(api.POST('/assessments/{id}/edition', at(now)))),
  }
}

export type OpenSheet = ReturnType<typeof useSheet>
