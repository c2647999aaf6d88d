import Big from 'big.js'
import { written } from './calculator'
import { t } from '@/words'

/** What is worked out is typed as a line and read by this grammar; nothing of it is run as a program. */
export const functions = ['√', 'sin', 'cos', 'tan', 'log', 'ln'] as const
type Name = (typeof functions)[number]
type Token = { number: Big } | { sign: string } | { name: Name }

class Refused extends Error {}
const digits = 12
/** A power beyond this is no number that a display has room for. */
const mostPower = 400

function tokens(text: string): Token[] {
  const out: Token[] = []
  let rest = text
  while ((rest = rest.trimStart())) {
    const number = /^(\d+\.?\d*|\.\d+)/.exec(rest)?.[0]
    const name = functions.find((f) => rest.startsWith(f))
    if (number) out.push({ number: Big(number.replace(/\.$/, '')) })
    else if (name) out.push({ name })
    else if ('+−×÷^()π%'.includes(rest[0]!)) out.push({ sign: rest[0]! })
    else throw new Refused('calculator.cannotRead')
    rest = rest.slice((number ?? name ?? rest[0]!).length)
  }
  return out
}

/** A function of the sine's kind has no exact value; it is rounded to what the display shows. */
const rounded = (n: number) => {
  if (!Number.isFinite(n)) throw new Refused('calculator.noValue')
  return Big(n.toPrecision(digits))
}
const degrees = (n: Big) => (n.toNumber() * Math.PI) / 180

const compute: Record<Name, (n: Big) => Big> = {
  '√': (n) => {
    if (n.lt(0)) throw new Refused('calculator.noRoot')
    return n.sqrt()
  },
  sin: (n) => (n.mod(180).eq(0) ? Big(0) : rounded(Math.sin(degrees(n)))),
  cos: (n) => (n.minus(90).mod(180).eq(0) ? Big(0) : rounded(Math.cos(degrees(n)))),
  tan: (n) => {
    if (n.minus(90).mod(180).eq(0)) throw new Refused('calculator.noValue')
    return n.mod(180).eq(0) ? Big(0) : rounded(Math.tan(degrees(n)))
  },
  log: (n) => rounded(Math.log10(n.toNumber())),
  ln: (n) => rounded(Math.log(n.toNumber())),
}

function power(base: Big, exponent: Big): Big {
  const n = exponent.toNumber()
  if (Number.isInteger(n) && Math.abs(n) <= mostPower) {
    if (base.eq(0) && n < 0) throw new Refused('calculator.byZero')
    return base.pow(n)
  }
  return rounded(Math.pow(base.toNumber(), n))
}

/** The value of a line, in exact decimals as far as there are such; a word says why there is none. */
export function worked(line: string): string {
  try {
    const all = tokens(line)
    let at = 0
    const next = (sign: string) => {
      const token = all[at]
      if (!token || !('sign' in token) || token.sign !== sign) return false
      at++
      return true
    }
    const sum = (): Big => {
      let n = product()
      for (;;) {
        if (next('+')) n = n.plus(product())
        else if (next('−')) n = n.minus(product())
        else return n
      }
    }
    const product = (): Big => {
      let n = signed()
      for (;;) {
        if (next('×')) n = n.times(signed())
        else if (next('÷')) {
          const by = signed()
          if (by.eq(0)) throw new Refused('calculator.byZero')
          n = n.div(by)
        } else return n
      }
    }
    const signed = (): Big => (next('−') ? signed().times(-1) : raised())
    const raised = (): Big => {
      const n = single()
      return next('^') ? power(n, signed()) : n
    }
    const single = (): Big => {
      const token = all[at++]
      if (!token) throw new Refused('calculator.cannotRead')
      let n: Big
      if ('number' in token) n = token.number
      else if ('name' in token) n = compute[token.name](single())
      else if (token.sign === 'π') n = Big('3.14159265358979323846')
      else if (token.sign === '(') {
        n = sum()
        if (!next(')')) throw new Refused('calculator.cannotRead')
      } else throw new Refused('calculator.cannotRead')
      while (next('%')) n = n.div(100)
      return n
    }
    const value = sum()
    if (at < all.length) throw new Refused('calculator.cannotRead')
    return written(value)
  } catch (e) {
    return t(e instanceof Refused ? e.message : 'calculator.noValue')
  }
}

const typed: Record<string, string> = { '-': '−', '*': '×', '/': '÷', ':': '÷', ',': '.' }
/** What a key of the keyboard writes; '' for nothing. */
export const writes = (key: string) => typed[key] ?? (/^[\d.+^()%]$/.test(key) ? key : '')
