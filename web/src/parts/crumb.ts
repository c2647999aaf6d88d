import { onUnmounted, ref, watchEffect } from 'vue'

/** What is open in a place, for the top line. */
export const crumb = ref('')

/** Names what is open while the calling screen is. */
export function useCrumb(name: () => string | undefined) {
  watchEffect(() => (crumb.value = name() ?? ''))
  onUnmounted(() => (crumb.value = ''))
}
