import type { Schemas } from '@/contract/client'
import type { How } from '../how'

/** The tools that open beside the work. Each has a key, pressed with Alt and Shift. */
export const keys = {
  calculator: 'C',
  pad: 'N',
  highlighter: 'H',
  aloud: 'A',
  reader: 'L',
  mask: 'M',
  ruler: 'R',
  protractor: 'P',
  table: 'T',
  dictionary: 'D',
  glossary: 'G',
  screen: 'S',
} as const
export type ToolName = keyof typeof keys

/** How it is given at a line that some tools are kept from. */
export function without(how: How, tools: string[] | undefined): How {
  if (!tools?.length) return how
  const left: Record<string, unknown> = { ...how.tools }
  for (const tool of tools) {
    const has = left[tool]
    left[tool] = tool === 'calculator' ? 'none' : Array.isArray(has) ? [] : false
  }
  return { ...how, tools: left as How['tools'] }
}

/** Which kind of calculator there is at an item: the settings' own, or one of a part or a support. */
export function calculatorOf(how: How, part: { calculator: boolean } | undefined, always: boolean) {
  if (how.tools.calculator !== 'none') return how.tools.calculator
  return part?.calculator || always ? ('percent' as const) : undefined
}

/** The tools that a student has at an item, in the order of the bar. */
export function toolsAt(how: How, calculator: string | undefined, shown: Schemas['Shown'] | undefined): ToolName[] {
  const has = how.tools
  const all: Record<ToolName, boolean> = {
    calculator: !!calculator,
    aloud: has.readAloud.length > 0,
    highlighter: has.highlighter,
    pad: has.scratchPad,
    reader: has.lineReader,
    mask: has.masking,
    ruler: has.ruler,
    protractor: has.protractor,
    table: has.timesTable,
    dictionary: has.dictionary,
    glossary: has.glossary && !!shown?.glossary?.length,
    screen: has.zoom || has.colors || has.easyType,
  }
  return (Object.keys(all) as ToolName[]).filter((tool) => all[tool])
}

/** Tools that lie over the page; the others stand beside it. */
export const overlays: ToolName[] = ['reader', 'mask', 'ruler', 'protractor']

/** The tool whose key was pressed. */
export function toolOf(e: KeyboardEvent): ToolName | undefined {
  if (!e.altKey || !e.shiftKey || e.ctrlKey || e.metaKey) return undefined
  return (Object.keys(keys) as ToolName[]).find((tool) => e.code === `Key${keys[tool]}`)
}
