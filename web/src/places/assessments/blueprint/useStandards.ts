import { useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, call } from '@/contract/client'
import * as bankQueries from '@/queries/bank'
import type { Sheet } from '@/places/assessments/lines/lines'

/** The standards of all frameworks, and those of an assessment's subject and grades. */
export function useStandards(sheet: Readonly<Ref<Sheet>>) {
  const frameworks = useQuery(bankQueries.frameworks)
  const trees = useQuery({
    queryKey: ['standards-by-framework', computed(() => frameworks.data.value?.map((f) => f.id))],
    queryFn: () =>
      Promise.all(
        frameworks.data.value!.map(async (framework) => ({
          framework,
          standards: await call(api.GET('/frameworks/{id}/standards', { params: { path: { id: framework.id } } })),
        })),
      ),
    enabled: computed(() => !!frameworks.data.value),
    staleTime: 60_000,
  })
  const all = computed(() => (trees.data.value ?? []).flatMap((t) => t.standards))
  const byCode = computed(() => new Map(all.value.map((s) => [s.code, s])))
  const ofSubject = computed(() =>
    (trees.data.value ?? [])
      .filter((t) => t.framework.subject.toLowerCase() === sheet.value.outline.subject)
      .flatMap((t) => t.standards),
  )
  const ofGrades = computed(() =>
    ofSubject.value.filter((s) => s.code && s.grades.some((g) => sheet.value.outline.grades.includes(g))),
  )
  return {
    ready: computed(() => !!trees.data.value),
    known: (code: string) => byCode.value.has(code),
    byCode,
    ofGrades,
  }
}
