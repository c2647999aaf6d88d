import { computed, ref, watch } from 'vue'

/** The row that keys act on: by its item, so that it stays the same one wherever changes bring it; where it is gone, the one in its place. */
export function useInHand(items: () => number[]) {
  const item = ref<number>()
  const last = ref(0)
  const at = computed(() => {
    const now = items().indexOf(item.value ?? -1)
    return now >= 0 ? now : Math.min(last.value, Math.max(0, items().length - 1))
  })
  watch(at, (now) => (last.value = now))
  function take(to: number) {
    item.value = to
    last.value = at.value
  }
  return { at, take }
}
