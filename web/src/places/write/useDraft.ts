import { useDebouncedRefHistory } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { useKept } from '@/kept/useKept'

type Draft = Schemas['ItemDraft']
export interface Typed {
  document: Draft['document']
  meta: Draft['meta']
}

/** An item while it is written: what is typed is kept by itself and can be undone. */
export function useDraft(first: Draft) {
  /** What the server made of it last: its student's side, problems, examples. */
  const seen = ref<Draft>(first)
  const path = { id: first.id }
  const { value, clash, state, ...kept } = useKept<Typed>({
    name: `item-draft/${first.id}`,
    there: () => ({ value: { document: seen.value.document, meta: seen.value.meta }, version: seen.value.version }),
    put: async (body, version) => {
      seen.value = await call(api.PUT('/item-drafts/{id}', { params: { path, header: { 'If-Match': version } }, body }))
    },
    reread: async () => {
      seen.value = await call(api.GET('/item-drafts/{id}', { params: { path } }))
    },
  })
  const history = useDebouncedRefHistory(value, {
    deep: true,
    debounce: 350,
    capacity: 200,
    clone: (v) => JSON.parse(JSON.stringify(v)),
  })
  return {
    ...kept,
    typed: value,
    seen,
    clash,
    state: computed(() => (clash.value ? 'Changed in another tab' : state.value)),
    history,
  }
}
