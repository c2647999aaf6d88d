import { useMutation } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, queries, type Schemas } from '@/contract/client'
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
  /** What is nearly the same in the bank; looked for before a draft is kept. */
  const twins = ref<Schemas['Twin'][]>([])

  const ending = useMutation({
    mutationFn: (step: () => Promise<string | undefined>) => step(),
    onSuccess: async (next) => {
      if (!next) return
      await queries.invalidateQueries()
      await router.push(next)
    },
    onError: () => (twins.value = []),
  })
  const seal = (version: number) =>
    call(api.POST('/item-drafts/{id}/keep', { params: { path, header: { 'If-Match': version } } }))

  const keepInBank = (whatever = false) =>
    ending.mutate(async () => {
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
    ending.mutate(async () => {
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
    ending.mutate(async () => {
      await call(api.DELETE('/item-drafts/{id}', { params: { path } }))
      forget()
      return home
    })

  return { twins, refused: ending.error, busy: ending.isPending, keepInBank, joinTo, drop }
}
