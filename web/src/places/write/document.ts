import type { Schemas } from '@/contract/client'

export type ItemDocument = Schemas['ItemDocument']
export type DocumentPlace = Schemas['DocumentInteraction']
export type Declaration = Schemas['Declaration']
export type DocumentChoice = Schemas['DocumentChoice']
export type Area = Schemas['DocumentArea']

/** A place to answer with its key, and where both stand in the document. */
export interface Part {
  place: DocumentPlace
  key: Declaration
  kind: string
  /** Of several parts, from 0; -1 when it is the only one. */
  at: number
}

/** The places to answer of an item, in the order of its body. */
export function partsOf(doc: ItemDocument): Part[] {
  const several = doc.kind === 'parts'
  return doc.body
    .flatMap((b) => (b.interaction ? [b.interaction] : []))
    .flatMap((place, at) => {
      const key = doc.declarations.find((d) => d.response === place.response)
      return key ? [{ place, key, kind: several ? (place.kind ?? '') : doc.kind, at: several ? at : -1 }] : []
    })
}

/** Where a problem of a part is said to be. */
export function placeOf(part: Part, rest: string): string {
  return part.at < 0 ? rest : `parts[${part.at}].${rest}`
}

/** A letter for the next choice: the first that none has. */
export function nextId(choices: { id: string }[], prefix = ''): string {
  for (let i = 0; ; i++) {
    const id = prefix ? `${prefix}${i + 1}` : letters(i)
    if (!choices.some((c) => c.id === id)) return id
  }
}

function letters(at: number): string {
  return at < 26 ? String.fromCharCode(65 + at) : letters(Math.floor(at / 26) - 1) + letters(at % 26)
}

/** Takes a choice away, and what the key, the feedback and other languages say of it. */
export function dropChoice(doc: ItemDocument, part: Part, side: 'choices' | 'targets', id: string) {
  const without = (list: DocumentChoice[] | undefined) => list?.filter((c) => c.id !== id || c.plain)
  part.place[side] = without(part.place[side])
  part.key.correct = (part.key.correct ?? []).filter((v) => v !== id && v.split(' ')[side === 'choices' ? 0 : 1] !== id)
  if (doc.feedback?.byAnswers)
    doc.feedback.byAnswers = doc.feedback.byAnswers.filter((a) => a.response !== part.place.response || a.value !== id)
  for (const place of elsewhere(doc, part)) place[side] = without(place[side])
}

/** Adds an empty choice, in every language. */
export function addChoice(doc: ItemDocument, part: Part, side: 'choices' | 'targets') {
  const list = (part.place[side] ??= [])
  const like = list.findLast((c) => !c.plain)
  const choice: DocumentChoice = { id: nextId(list, side === 'targets' ? 'T' : ''), html: '' }
  if (like?.most) choice.most = like.most
  list.push(choice)
  for (const place of elsewhere(doc, part)) (place[side] ??= []).push({ ...choice })
}

/** Moves a choice to another place, in every language. */
export function moveChoice(doc: ItemDocument, part: Part, side: 'choices' | 'targets', from: number, to: number) {
  for (const place of [part.place, ...elsewhere(doc, part)]) {
    const list = place[side]
    if (!list || to < 0 || to >= list.length) continue
    list.splice(to, 0, ...list.splice(from, 1))
  }
}

/** The same place to answer in the other languages. */
function elsewhere(doc: ItemDocument, part: Part): DocumentPlace[] {
  return (doc.variants ?? []).flatMap((v) =>
    v.body.flatMap((b) => (b.interaction?.response === part.place.response ? [b.interaction] : [])),
  )
}

/** Half the side of a new area, as a part of the picture's width. */
const newArea = 20

/** The key as a response, so that the author's view shows it as answered. */
export function keyAsResponse(doc: ItemDocument): Record<string, string[]> {
  const out: Record<string, string[]> = {}
  for (const { place, key, kind } of partsOf(doc)) {
    const correct = key.correct ?? []
    if (kind === 'spot' && !place.choices?.length) out[place.response] = (key.areas ?? []).map((a) => middle(a).join(' '))
    else if (['text', 'number', 'number-line'].includes(kind)) out[place.response] = correct.slice(0, 1)
    else if (!['short-written', 'extended-written', 'examiner'].includes(kind)) out[place.response] = correct
  }
  return out
}

function middle(a: Area): [number, number] {
  if (a.shape === 'circle') return [a.at[0] ?? 0, a.at[1] ?? 0]
  const xs = a.at.filter((_, i) => i % 2 === 0)
  const ys = a.at.filter((_, i) => i % 2 === 1)
  const between = (list: number[]) => Math.round((Math.min(...list) + Math.max(...list)) / 2)
  return [between(xs), between(ys)]
}

/** Takes an answer given in the author's view as the key. */
export function setKey(doc: ItemDocument, response: Record<string, string[]>) {
  for (const { place, key, kind } of partsOf(doc)) {
    const given = response[place.response] ?? []
    if (kind === 'spot' && !place.choices?.length) {
      const areas = key.areas ?? []
      const known = areas.map((a) => middle(a).join(' '))
      const added = given.filter((v) => !known.includes(v))
      const kept = areas.filter((_, i) => given.includes(known[i]!))
      const radius = Math.max(4, Math.round((place.picture?.width ?? 400) / newArea))
      const fresh = added.map((v) => ({ shape: 'circle', at: [...v.split(' ').map(Number), radius] }))
      key.areas = place.maxChoices === 1 && added.length ? moved(areas, fresh) : [...kept, ...fresh]
    } else if (['text', 'number', 'number-line'].includes(kind)) {
      const others = (key.correct ?? []).slice(1).filter((v) => v !== given[0])
      key.correct = given[0] ? [given[0], ...others] : others
    } else if (!['short-written', 'extended-written', 'examiner'].includes(kind)) key.correct = given
  }
}

/** Where one spot is asked for, a new one moves the only area there is. */
function moved(areas: Area[], fresh: Area[]): Area[] {
  const [only, to] = [areas[0], fresh[0]]
  if (areas.length > 1) return [...areas, ...fresh]
  if (!only || !to || only.shape !== 'circle') return fresh
  return [{ ...only, at: [to.at[0]!, to.at[1]!, only.at[2]!] }]
}
