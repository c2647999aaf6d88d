import { onUnmounted, ref } from 'vue'

/** The keys of the screen that is open, for the help that ? shows. */
export const screenKeys = ref<[keys: string, what: string][]>([])

export function useScreenKeys(keys: [string, string][]) {
  screenKeys.value = keys
  onUnmounted(() => {
    if (screenKeys.value === keys) screenKeys.value = []
  })
}

/** Tells whether a key press belongs to a field that is being typed in. */
export function isTyping(e: KeyboardEvent): boolean {
  const target = e.target
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName)) &&
    target.getAttribute('type') !== 'checkbox'
  )
}
