import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, ProblemError, queries, type Schemas } from '@/contract/client'
import type { useDraft } from './useDraft'

/** How a draft ends: kept in the bank, joined to an item that is there, or dropped. */
export function useKeeping(
  draft: Schemas['ItemDraft'],
  { seen, keep, forget }: Pick<ReturnType<typeof useDraft>, 'seen' | 'keep' | 'forget'>,
) {
  const router = useRouter()
  /** An own copy goes back to the line that it was begun from. */
  const home = draft.assessmentId ? `/assessments/${draft.assessmentId}/lines` : '/bank'
  const path = { id: draft.id }
  const refused = ref<ProblemError>()
  const busy = ref(false)
  /** What is nearly the same in the bank; looked for before a draft is kept. */
  const twins = ref<Schemas['Twin'][]>([])

  async function end(step: () => Promise<string | undefined>) {
    refused.value = undefined
    busy.value = true
    try {
      const next = await step()
      if (!next) return
      await queries.invalidateQueries()
      await router.push(next)
    } catch (e) {
      twins.value = []
      refused.value = e as ProblemError
    } finally {
      busy.value = false
    }
  }
  const seal = (version: number) =>
    call(api.POST('/item-drafts/{id}/keep', { params: { path, header: { 'If-Match': version } } }))

  const keepInBank = (whatever = false) =>
    end(async () => {
      if (!(await keep())) return
      if (!whatever) {
        twins.value = await call(api.GET('/item-drafts/{id}/twins', { params: { path } }))
        if (twins.value.length) return
      }
      twins.value = []
      await seal(seen.value.version)
      return home
    })
  const joinTo = (item: number) =>
    end(async () => {
      const linked = await call(
        api.POST('/item-drafts/{id}/link', {
          params: { path, header: { 'If-Match': seen.value.version } },
          body: { item },
        }),
      )
      await seal(linked.version)
      return `/bank/items/${item}`
    })
  const drop = () =>
    end(async () => {
      await call(api.DELETE('/item-drafts/{id}', { params: { path } }))
      forget()
      return home
    })

  return { twins, refused, busy, keepInBank, joinTo, drop }
}
