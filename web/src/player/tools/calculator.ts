import Big from 'big.js'
import { t } from '@/words'

/** A four-function calculator that works from left to right, as the ones on desks do. */
export interface Calculator {
  /** What it shows. */
  shows: string
  /** The number that waits for the second one, with what is to be done. */
  left?: string
  operation?: Operation
  /** The next digit begins a new number. */
  fresh: boolean
  /** What was worked out, the last one last: "3 + 4 = 7". */
  done?: string[]
}

export type Operation = '+' | '−' | '×' | '÷'
export type Key = `${number}` | '.' | Operation | '=' | '±' | '√' | '%' | 'C' | '⌫'

export const off: Calculator = { shows: '0', fresh: true }
/** How many digits the display has room for. */
const room = 12

const work: Record<Operation, (a: Big, b: Big) => Big> = {
  '+': (a, b) => a.plus(b),
  '−': (a, b) => a.minus(b),
  '×': (a, b) => a.times(b),
  '÷': (a, b) => a.div(b),
}

/** A number as the display shows it: so many digits, the last rounded half up. */
export function written(n: Big): string {
  if (n.abs().gte(Big(10).pow(room))) return t('calculator.large')
  const whole = n.abs().round(0, 0).toFixed().length
  return n.round(Math.max(0, room - whole), 1).toFixed()
}

function computed(c: Calculator): string {
  try {
    return c.operation && c.left !== undefined ? written(work[c.operation](Big(c.left), Big(c.shows))) : c.shows
  } catch {
    return t('calculator.byZero')
  }
}

/** Whether it shows a number, not a word for why there is none. */
export const hasNumber = (c: Calculator) => /^-?[\d.]+$/.test(c.shows)

function digit(c: Calculator, key: string): Calculator {
  const now = c.fresh ? '' : c.shows
  if (key === '.' ? now.includes('.') : now.replace(/\D/g, '').length >= room) return c
  const text = key === '.' ? `${now || '0'}.` : now === '0' || now === '-0' ? now.replace('0', key) : now + key
  return { ...c, shows: text, fresh: false }
}

/** What the calculator is after a key. */
export function pressed(c: Calculator, key: Key): Calculator {
  const now = press(c, key)
  const done = c.done ?? []
  const worked = (key === '=' || key in work) && c.operation && c.left !== undefined && !(c.fresh && key !== '=') && hasNumber(c)
  return { ...now, done: worked ? [...done, `${c.left} ${c.operation} ${c.shows} = ${now.shows}`].slice(-mostDone) : done }
}

/** How many lines of its work it remembers. */
const mostDone = 20

function press(c: Calculator, key: Key): Calculator {
  if (key === 'C') return off
  if (!hasNumber(c)) return /^[\d.]$/.test(key) ? digit(off, key) : c
  switch (key) {
    case '+':
    case '−':
    case '×':
    case '÷': {
      if (c.fresh && c.operation) return { ...c, operation: key } // another sign was meant
      const shows = computed(c)
      return { shows, left: shows, operation: key, fresh: true }
    }
    case '=':
      return { shows: computed(c), fresh: true }
    case '±':
      return { ...c, shows: c.shows.startsWith('-') ? c.shows.slice(1) : `-${c.shows}` }
    case '%':
      return { ...c, shows: written(Big(c.shows).div(100)), fresh: true }
    case '√':
      return { ...c, shows: c.shows.startsWith('-') ? t('calculator.noRoot') : written(Big(c.shows).sqrt()), fresh: true }
    case '⌫':
      return c.fresh ? c : { ...c, shows: /^-?.$/.test(c.shows) ? '0' : c.shows.slice(0, -1) }
    default:
      return digit(c, key)
  }
}

const typed: Record<string, Key> = {
  '-': '−',
  '*': '×',
  x: '×',
  '/': '÷',
  ':': '÷',
  ',': '.',
  Enter: '=',
  Backspace: '⌫',
  Delete: 'C',
}

/** The key that a key of the keyboard stands for. */
export function keyTyped(key: string): Key | undefined {
  return typed[key] ?? (/^[\d.+=%]$/.test(key) ? (key as Key) : undefined)
}
