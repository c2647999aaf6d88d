import { useSessionStorage } from '@vueuse/core'
import { onScopeDispose, watchEffect } from 'vue'

/**
 * The face that a student reads in: one made for learners, with an open zero, or one
 * whose letters and digits are drawn as unlike each other as can be. The choice stays
 * in the tab over a reload, and ends when the student signs out.
 */
export function useLetters() {
  const letters = useSessionStorage<'learner' | 'distinct'>('letters', 'learner')
  const page = document.documentElement.dataset
  watchEffect(() => (page.letters = letters.value))
  onScopeDispose(() => delete page.letters)
  const change = () => (letters.value = letters.value === 'learner' ? 'distinct' : 'learner')
  return { letters, change }
}
