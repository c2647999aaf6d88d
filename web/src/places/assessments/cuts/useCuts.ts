import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { useOpenSheet } from '@/places/assessments/sheet/open'

type Band = Schemas['Band']
type Rule = Schemas['BandSet']['rule']

/** The cuts of the assessment that is open: those that stand, others that are weighed against them, and what either would do. */
export function useCuts() {
  const { sheet, editable, putCuts } = useOpenSheet()
  const weighed = ref<Band[]>()
  const assumed = ref({ mean: 0, sd: 1 })
  const bands = computed(() => weighed.value ?? sheet.value.bandSet?.bands ?? [])
  // What is weighed outlives a sheet that is read again, and not another set.
  watch([() => sheet.value.bandSet?.id, () => sheet.value.state], cancel)
  /** How percents become scores: by what is weighed, else as it stands. */
  const otherRule = ref<Rule>()
  const rule = computed<Rule>(() => otherRule.value ?? sheet.value.bandSet?.rule ?? 'atLeast')
  function setRule(to: Rule) {
    otherRule.value = to
    weighed.value ??= [...bands.value]
  }
  function cancel() {
    weighed.value = undefined
    otherRule.value = undefined
  }

  const asked = computed(() => ({ bands: weighed.value, rule: otherRule.value, ...assumed.value }))
  const settled = refDebounced(asked, 30)
  const forecast = useQuery({
    queryKey: ['forecast', computed(() => sheet.value.id), computed(() => sheet.value.version), settled],
    queryFn: () =>
      call(api.POST('/assessments/{id}/forecast', { params: { path: { id: sheet.value.id } }, body: settled.value })),
    enabled: computed(() => !!sheet.value.bandSet && !!sheet.value.cuts),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const weigh = (more: { bands?: Band[]; rule?: Rule; school?: number }) =>
    call(
      api.POST('/assessments/{id}/forecast', { params: { path: { id: sheet.value.id } }, body: { ...assumed.value, ...more } }),
    )
  /** The school that is opened, and what the cuts would do section by section there. */
  const school = ref<number>()
  const sections = useQuery({
    queryKey: ['forecast', computed(() => sheet.value.id), computed(() => sheet.value.version), settled, 'school', school],
    queryFn: () => weigh({ bands: settled.value.bands, rule: settled.value.rule, school: school.value }),
    enabled: computed(() => school.value !== undefined && !!sheet.value.cuts),
    placeholderData: (before, query) => (query?.queryKey.at(-1) === school.value ? before : undefined),
    retry: false,
  })
  /** Another set beside the cuts, and what its cuts would do here. */
  const other = ref<Schemas['BandSet']>()
  const beside = useQuery({
    queryKey: [
      'forecast',
      computed(() => sheet.value.id),
      computed(() => sheet.value.version),
      assumed,
      'beside',
      computed(() => other.value?.id),
    ],
    queryFn: () => weigh({ bands: other.value!.bands, rule: other.value!.rule }),
    enabled: computed(() => !!other.value && !!sheet.value.cuts),
    retry: false,
  })
  /** Where bands begin on this form, by what is weighed; the last good answer while another is on its way. */
  const cuts = computed(() => forecast.data.value?.cuts ?? sheet.value.cuts)

  function setCut(at: number, cut: Schemas['Cut']) {
    weighed.value = bands.value.map((b, i) => (i === at ? { ...b, cut } : b))
  }
  /** The cuts in parts of points, each with the whole points that it rounds up to. */
  const inParts = computed(() =>
    (cuts.value?.starts ?? []).flatMap((s, at) =>
      s.rounded === undefined ? [] : [{ at, name: s.name, raw: s.raw, up: s.rounded }],
    ),
  )
  function roundUp() {
    const of = cuts.value?.total
    weighed.value = bands.value.map((b, i) => {
      const part = inParts.value.find((p) => p.at === i)
      return part ? { ...b, cut: { raw: part.up, of } } : b
    })
  }
  /** What undo brings back: the cuts before the last that were taken, none for those of the set; and what they were changed into. */
  interface Stand {
    bands: Band[]
    rule?: Rule
  }
  const past = ref<{ before: Stand; after: string }>()
  const standing = () => JSON.stringify([sheet.value.bandSet?.id, sheet.value.bandSet?.bands, sheet.value.bandSet?.rule])
  /** Nothing is undone that another has changed since, or that went with another set. */
  const before = computed(() => (past.value?.after === standing() ? past.value.before : undefined))
  async function take(to: Stand) {
    const set = sheet.value.bandSet
    const was: Stand = set?.own ? { bands: set.bands, rule: set.rule } : { bands: [] }
    if (!(await putCuts(to.bands, to.rule))) return
    past.value = { before: was, after: standing() }
    cancel()
  }
  return {
    bands,
    cuts,
    weighed,
    assumed,
    forecast,
    school,
    sections,
    other,
    beside,
    editable,
    setCut,
    rule,
    setRule,
    cancel,
    inParts,
    roundUp,
    before,
    use: () => weighed.value && take({ bands: weighed.value, rule: rule.value }),
    useSet: () => take({ bands: [] }),
    undo: () => before.value && take(before.value).then(() => (past.value = undefined)),
  }
}
