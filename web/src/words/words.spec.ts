import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'
import { parse, type ElementNode, type TemplateChildNode } from '@vue/compiler-dom'
import { describe, expect, it } from 'vitest'
import { en } from './en'
import { es } from './es'

type Tree = { [key: string]: string | Tree }
const flat = (tree: Tree, at = ''): [key: string, words: string][] =>
  Object.entries(tree).flatMap(([k, v]) => (typeof v === 'string' ? [[at + k, v] as [string, string]] : flat(v, `${at}${k}.`)))
const places = (words: string) => [...new Set(words.match(/\{\w+\}/g) ?? [])].sort().join(' ')

describe('what students read', () => {
  it('is there in both languages, with the same things filled in', () => {
    const spanish = new Map(flat(es))
    for (const [key, words] of flat(en)) {
      const there = spanish.get(key)
      expect(there, key).toBeTruthy()
      expect(places(there!), key).toBe(places(words))
      expect(there!.split(' | ').length, `${key}: singular and plural`).toBe(words.split(' | ').length)
      spanish.delete(key)
    }
    expect([...spanish.keys()], 'nothing is left over in Spanish').toEqual([])
  })

  it('is translated', () => {
    const spanish = new Map(flat(es))
    const same = flat(en).filter(([key, words]) => /[a-z]{3}/i.test(words.replace(/\{\w+\}/g, '')) && spanish.get(key) === words)
    expect(same).toEqual([])
  })
})

/** Keys that are put together where they are used. */
const built =
  /^(stopped|calculator|support|math|tools\.reads|tools\.contrast|tools\.(pad|reader|highlighter|mask|ruler|protractor|table|dictionary|glossary|aloud|screen)$|feedback\.what|feedback\.counts)\.?/

it('every key is used', () => {
  const sources = ['player', 'player/tools', 'item', 'words', 'places/signin']
    .flatMap((folder) => {
      const at = join(import.meta.dirname, '..', folder)
      return readdirSync(at, { withFileTypes: true })
        .filter((file) => file.isFile())
        .map((file) => readFileSync(join(at, file.name), 'utf8'))
    })
    .join('\n')
  const unused = flat(en).filter(([key]) => !built.test(key) && !sources.includes(`'${key}'`))
  expect(unused.map(([key]) => key)).toEqual([])
})

/** Words that a person would read: two letters in a row at least. */
const wordy = (text: string) => /\p{L}{2}/u.test(text)
const read = ['aria-label', 'title', 'placeholder', 'alt', 'label']

/** Text in a template that is in no catalog. */
function inTemplate(nodes: TemplateChildNode[]): string[] {
  return nodes.flatMap((n) => {
    if (n.type === 2) return wordy(n.content) ? [n.content.trim()] : []
    if (n.type !== 1) return []
    const attributes = (n as ElementNode).props.flatMap((p) =>
      p.type === 6 && read.includes(p.name) && p.value && wordy(p.value.content) ? [`${p.name}: ${p.value.content}`] : [],
    )
    return [...attributes, ...inTemplate((n as ElementNode).children)]
  })
}
/** Names of the contract and of keys that happen to have two words. */
const names = ['not begun', 'handed in', 'outside hours', 'ArrowLeft', 'numeric']
/** Sentences in a script: string literals of two words at least. */
function inScript(code: string): string[] {
  const out: string[] = []
  const visit = (node: ts.Node) => {
    if (ts.isImportDeclaration(node)) return
    const text = ts.isStringLiteralLike(node) || ts.isTemplateHead(node) || ts.isTemplateTail(node) ? node.text : ''
    if (/\p{L}{2,} \p{L}{2,}/u.test(text) && !names.includes(text)) out.push(text)
    ts.forEachChild(node, visit)
  }
  visit(ts.createSourceFile('x.ts', code, ts.ScriptTarget.Latest, true))
  return out
}
/** The expressions of a template as a script. */
const expressions = (template: string) =>
  [...template.matchAll(/(?::[\w-]+|v-[\w-]+)="([^"]*)"|\{\{([^}]*)\}\}/g)].map((m) => `(${m[1] ?? m[2]});`)

describe.each(['player', 'player/tools', 'item'])('the student’s side in %s', (folder) => {
  const at = join(import.meta.dirname, '..', folder)
  // The dictionary is a book in English, whatever language the screen speaks.
  const files = readdirSync(at).filter((f) => /\.(vue|ts)$/.test(f) && !/\.spec\.ts$|^test[A-Z]|^dictionary\.ts$/.test(f))
  it.each(files)('%s takes its words from the catalogs', (file) => {
    const source = readFileSync(join(at, file), 'utf8')
    if (file.endsWith('.ts')) {
      expect(inScript(source)).toEqual([])
      return
    }
    const script = /<script[^>]*>([\s\S]*?)<\/script>/.exec(source)?.[1] ?? ''
    const template = /<template>([\s\S]*)<\/template>/.exec(source)![1]!
    expect(inTemplate(parse(template).children)).toEqual([])
    expect([...inScript(script), ...expressions(template).flatMap(inScript)]).toEqual([])
  })
})

it('finds words that are in no catalog', () => {
  expect(inTemplate(parse('<p title="Look here"><b>Hand in</b>{{ n }} · 3</p>').children)).toEqual([
    'title: Look here',
    'Hand in',
  ])
  expect(inScript("import 'some words'; const a = `The rest ${n} is here`; const b = 'go on now'")).toEqual([
    'The rest ',
    ' is here',
    'go on now',
  ])
  expect(expressions('<p :title="on ? `It is on` : x">{{ say(`two words`) }}</p>').flatMap(inScript)).toEqual([
    'It is on',
    'two words',
  ])
})
