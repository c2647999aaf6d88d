import { useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { useRoute } from 'vue-router'
import * as assessmentQueries from '@/queries/assess'
import { placeIn, spots, type Place, type Spot } from '@/places/settings/settings'
import { useSettings } from '@/places/settings/useSettings'

/**
 * What is laid beside an assessment's settings, as the address says: another place of it (`beside=section=12`), or another
 * assessment (`beside=assessment=7`) at the same place, if it is given there, or where one chooses (`besideAt=section=12`).
 */
export function useBeside(id: Ref<number>, spot: Ref<string>, places: Ref<Spot[]>) {
  const route = useRoute()
  const asked = (name: string) => computed(() => (typeof route.query[name] === 'string' ? route.query[name] : undefined))
  const key = asked('beside')
  const chosen = asked('besideAt')
  const assessment = computed(() => (key.value?.startsWith('assessment=') ? Number(key.value.split('=')[1]) : undefined))

  // Where the other assessment is given is known once all of it has come.
  const whole = useSettings(() => ({ assessment: assessment.value ?? id.value }))
  const itsSpots = computed(() =>
    assessment.value && whole.view.value?.place.assessment === assessment.value ? spots(whole.view.value, assessment.value) : [],
  )
  const at = computed(() => {
    const wanted = chosen.value ?? spot.value
    return itsSpots.value.some((s) => s.value === wanted) ? wanted : ''
  })
  const place = computed<Place>(() => {
    const [name, value] = (assessment.value ? at.value : (key.value ?? '')).split('=')
    return placeIn(name ? { [name]: value } : {}, assessment.value ?? id.value)
  })
  const other = useSettings(place)
  const listed = useQuery(assessmentQueries.assessments())
  const title = computed(() => {
    if (!assessment.value) return places.value.find((p) => p.value === key.value)?.label
    const its = listed.data.value?.find((a) => a.id === assessment.value)?.title ?? 'The other assessment'
    return at.value ? `${its}, ${itsSpots.value.find((s) => s.value === at.value)!.label}` : its
  })
  const beside = computed(() =>
    key.value !== undefined && other.view.value ? { title: title.value ?? 'The other place', view: other.view.value } : undefined,
  )
  return { key, at, spots: itsSpots, other, beside }
}
