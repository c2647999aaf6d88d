import { useLocalStorage } from '@vueuse/core'

const language = useLocalStorage('pine-ledger-item-language', '')

/** The language in which items are read where they have it; '' is the one they were written in. */
export function useItemLanguage() {
  return { language, choose: (to: string) => (language.value = to) }
}
