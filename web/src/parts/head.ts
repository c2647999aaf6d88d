/** Goes on at the head of the page, where what had the focus is gone: not at the browser's own. */
export function focusHead() {
  const head = document.querySelector<HTMLElement>('main h1, main h2')
  head?.setAttribute('tabindex', '-1')
  head?.focus()
}
