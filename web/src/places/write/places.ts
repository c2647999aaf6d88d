import { letter } from '@/item/letter'

const names: Record<string, string> = {
  body: 'question',
  declarations: 'key',
  choices: 'choices',
  targets: 'targets',
  credit: 'credit',
  line: 'line',
  picture: 'picture',
  variants: 'Spanish',
  cards: 'word help',
}

/** Where a problem is, as an author calls it: "Part 2, choice B". */
export function placeName(place: string): string {
  const name = nameOf(place)
  return name.charAt(0).toUpperCase() + name.slice(1)
}

function nameOf(place: string): string {
  const part = /^parts\[(\d+)\]\.(.*)$/.exec(place)
  if (part) return `part ${Number(part[1]) + 1}, ${nameOf(part[2]!)}`
  const choice = /^choices\[(\d+)\]/.exec(place)
  if (choice) return `choice ${letter(Number(choice[1]))}`
  const target = /^targets\[(\d+)\]/.exec(place)
  if (target) return `target ${Number(target[1]) + 1}`
  if (place.includes('rubric')) return 'rubric'
  const first = place.split(/[.[]/)[0]!
  return names[first] ?? first
}
