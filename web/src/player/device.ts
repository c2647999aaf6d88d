const name = 'pine-ledger-device'

/** A name for this browser, made up at first use, so that the server can tell two devices at one attempt apart. */
export function device(): string {
  try {
    const made =
      localStorage.getItem(name) ?? Array.from(crypto.getRandomValues(new Uint32Array(3)), (n) => n.toString(36)).join('')
    localStorage.setItem(name, made)
    return made
  } catch {
    return '' // the browser's store is shut
  }
}
