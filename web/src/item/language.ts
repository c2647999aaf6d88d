import { useSessionStorage } from '@vueuse/core'

/**
 * The language in which items are read where they have it; '' is the one they were written in.
 * The choice is one for the whole page, stays in the tab over a reload, and ends at signing out.
 */
export function useItemLanguage() {
  const language = useSessionStorage('language', '')
  return { language, choose: (to: string) => (language.value = to) }
}
