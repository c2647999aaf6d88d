import { computed, inject, type InjectionKey } from 'vue'
import { clockTime } from '@/contract/format'
import type { OpenSheet } from './useSheet'

export const openSheetKey: InjectionKey<OpenSheet> = Symbol('open sheet')

/** The assessment whose part this is; parts stand only inside Sheet.vue, where it has been read. */
export function useOpenSheet() {
  const open = inject(openSheetKey)
  if (!open) throw new Error('a part of an assessment stands outside its sheet')
  const sheet = computed(() => open.sheet.value!)
  /** How things are kept, said quietly. */
  const kept = computed(() => {
    const s = sheet.value
    const form = `edition ${s.edition}`
    if (open.saving.value) return `${form} · saving…`
    if (s.state !== 'draft') return `${form}, ${s.state}`
    return `${form} · saved ${clockTime(s.changedAt)} · ${s.changedBy}`
  })
  return { ...open, sheet, kept }
}
