import { computed } from 'vue'
import { useRoute, useRouter, type LocationQueryRaw } from 'vue-router'
import type { paths } from '@/contract/api-schema'

export type AssessmentQuery = NonNullable<paths['/assessments']['get']['parameters']['query']>
export type Restriction = Exclude<keyof AssessmentQuery, 'mine' | 'sort'>

const texts: Restriction[] = ['words', 'grade', 'subject', 'course', 'year', 'state', 'label']
const restrictions: Restriction[] = [...texts, 'owner']

/** What restricts the list of assessments lives in the address: it can be kept, sent and gone back to. */
export function useAssessmentQuery() {
  const route = useRoute()
  const router = useRouter()
  const text = (key: string) => (typeof route.query[key] === 'string' ? route.query[key] : '')
  const query = computed<AssessmentQuery>(() => ({
    ...Object.fromEntries(texts.map((k) => [k, text(k)]).filter(([, v]) => v)),
    ...(Number(text('owner')) > 0 && { owner: Number(text('owner')) }),
    ...(route.query.mine === '1' && { mine: true }),
    sort: route.query.sort === 'changed' ? 'changed' : 'opened',
  }))
  function set(key: keyof AssessmentQuery, value: string) {
    const next: LocationQueryRaw = { ...route.query, [key]: value || undefined }
    void router.replace({ query: next })
  }
  const restricted = computed(() => [...restrictions, 'mine'].some((k) => route.query[k]))
  const clear = () => void router.replace({ query: route.query.sort ? { sort: route.query.sort } : {} })
  return { query, set, restricted, clear }
}
