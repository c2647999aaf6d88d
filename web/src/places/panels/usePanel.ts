import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { useChanges } from '@/contract/useChanges'
import * as panelQueries from '@/queries/panels'

/** A panel as its chair leads it. */
export function usePanel(id: number) {
  const query = useQuery(panelQueries.panel(id))
  useChanges([`panels/${id}`], () => void query.refetch())
  const path = { path: { id } }
  const kept = (p: Schemas['Panel']) => queries.setQueryData(panelQueries.panel(id).queryKey, p)
  const act = useMutation({
    mutationFn: (send: () => Promise<Schemas['Panel']>) => send(),
    onSuccess: kept,
    onError: () => query.refetch(),
  })
  const rounds = computed(() => query.data.value?.rounds ?? [])
  return {
    query,
    act,
    rounds,
    newest: computed(() => rounds.value.at(-1)),
    invite: (judges: number[]) => act.mutate(() => call(api.POST('/panels/{id}/judges', { params: path, body: { judges } }))),
    move: (person: number, left: boolean, why: string) =>
      act.mutate(() => call(api.PUT('/panels/{id}/judges/{person}', { params: { path: { id, person } }, body: { left, why } }))),
    openRound: (training: boolean) =>
      act.mutate(() => call(api.POST('/panels/{id}/rounds', { params: path, body: { training } }))),
    moveRound: (round: number, to: 'close' | 'open' | 'feedback') =>
      act.mutate(() => call(api.PUT('/panels/{id}/rounds/{round}', { params: { path: { id, round } }, body: { to } }))),
    end: (ended: boolean) => act.mutate(() => call(api.PUT('/panels/{id}/ended', { params: path, body: { ended } }))),
  }
}

/** What becomes of a round's cuts: those of a band set. */
export function useTaking(id: number, round: Ref<number>) {
  return useMutation({
    mutationFn: (to: { median: boolean; bandSetId?: number; name?: string }) =>
      call(api.POST('/panels/{id}/taken', { params: { path: { id } }, body: { round: round.value, ...to } })),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['band-sets'] }),
        queries.invalidateQueries({ queryKey: ['assessment'] }),
      ]),
  })
}
