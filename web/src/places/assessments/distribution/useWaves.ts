import { computed, ref, type Ref } from 'vue'
import type { Wave, WaveShown } from './whom'

/** Which wave is open in its panel, and what becomes of the list of waves; `put` takes the list that is wanted. */
export function useWaves(shown: Ref<WaveShown[]>, put: (waves: Wave[]) => void) {
  const open = ref<number>() // its place; that of the end for a new one
  const list = () => shown.value.map((w) => w.wave)
  const wave = computed(() => (open.value === undefined ? undefined : shown.value[open.value]?.wave))
  const others = computed(() => list().filter((_, i) => i !== open.value))
  function change(at: number, to: Wave) {
    const waves = list()
    waves[at] = to
    put(waves)
    open.value = undefined
  }
  function remove() {
    put(list().filter((_, i) => i !== open.value))
    open.value = undefined
  }
  return { open, wave, others, change, remove, add: () => (open.value = shown.value.length) }
}
