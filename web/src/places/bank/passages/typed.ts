import type { Schemas } from '@/contract/client'

type Typed = Schemas['PassageInput']

const key = (id: number) => `passage-${id}`

/** What was typed of a passage and never kept, if it began from the same version. */
export function remembered(id: number, version: number): Partial<Typed> {
  const text = localStorage.getItem(key(id))
  if (!text) return {}
  const found = JSON.parse(text) as { version: number; form: Typed }
  return found.version === version ? found.form : {}
}

/** Remembers what is being typed, as long as it differs from what is kept. */
export function remember(id: number, version: number, form: Typed, saved: Typed) {
  const differs = (Object.keys(saved) as (keyof Typed)[]).some((f) => f !== 'bank' && form[f] !== saved[f])
  if (differs) localStorage.setItem(key(id), JSON.stringify({ version, form }))
  else forget(id)
}

export function forget(id: number) {
  localStorage.removeItem(key(id))
}
