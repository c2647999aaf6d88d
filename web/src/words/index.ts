import { onScopeDispose, watchEffect } from 'vue'
import { createI18n } from 'vue-i18n'
import { useItemLanguage } from '@/item/language'
import { en } from './en'
import { es } from './es'

/** The languages in which students can read everything. */
export const languages = ['en', 'es'] as const

const i18n = createI18n({ legacy: false, locale: 'en', fallbackLocale: 'en', messages: { en, es } })

/** The words of a key in the language that is read now; with a number the singular or plural. */
export const { t, te } = i18n.global

/**
 * A student's pages are in the language that the student chose, as their items are where
 * they have it. Staff pages are in English, whatever language an item is looked at in.
 */
export function useStudentLanguage() {
  const { language, choose } = useItemLanguage()
  watchEffect(() => {
    const now = languages.find((l) => l === language.value) ?? 'en'
    i18n.global.locale.value = document.documentElement.lang = now
  })
  onScopeDispose(() => (i18n.global.locale.value = document.documentElement.lang = 'en'))
  return { locale: i18n.global.locale, choose }
}
