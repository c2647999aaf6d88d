import { onScopeDispose, watch, type Ref } from 'vue'

/** How long one switch rests on each thing before it goes on, in ms. */
export const stepMs = 1_800

const reachable = 'button, input, select, textarea, a[href], [tabindex="0"]'

/**
 * Everything on the page by one or two switches, which act as the keys Space and Enter. With two, Space goes on and Enter
 * chooses; with one, it goes on by itself and either chooses. In a box to write in both write as always.
 */
export function useSwitch(kind: () => '' | 'one' | 'two', page: Ref<HTMLElement | null>) {
  const all = () =>
    [...(page.value?.querySelectorAll<HTMLElement>(reachable) ?? [])].filter(
      (el) => !el.hasAttribute('disabled') && el.getClientRects().length > 0,
    )
  function step() {
    const list = all()
    const at = list.indexOf(document.activeElement as HTMLElement)
    list[(at + 1) % list.length]?.focus()
  }
  const writes = (el: Element | null) =>
    el instanceof HTMLTextAreaElement || (el instanceof HTMLInputElement && el.type === 'text')
  function onKey(e: KeyboardEvent) {
    if ((e.key !== ' ' && e.key !== 'Enter') || e.altKey || e.ctrlKey || writes(document.activeElement)) return
    e.preventDefault()
    if (kind() === 'two' && e.key === ' ') return step()
    const here = document.activeElement
    if (here instanceof HTMLElement && here !== document.body) here.click()
  }
  let timer: ReturnType<typeof setInterval> | undefined
  function end() {
    clearInterval(timer)
    document.removeEventListener('keydown', onKey, true)
  }
  watch(
    kind,
    (now) => {
      end()
      if (!now) return
      document.addEventListener('keydown', onKey, true)
      if (now === 'one') timer = setInterval(() => writes(document.activeElement) || step(), stepMs)
    },
    { immediate: true },
  )
  onScopeDispose(end)
}
