import type { Schemas } from '@/contract/client'

export type How = Schemas['How']
export type Tools = Schemas['Tools']

/** How it is given where nothing else is said, as in an attempt that an earlier release left on this device. */
export const usual: How = {
  directions: '',
  notes: true,
  code: false,
  onePage: false,
  forwardOnly: false,
  afterEach: [],
  printing: false,
  breaks: 0,
  breaksLeft: 0,
  breakMinutes: 0,
  tries: 1,
  penalty: 0,
  tools: {
    marks: true,
    calculator: 'none',
    strikeOut: false,
    lineReader: false,
    scratchPad: false,
    zoom: false,
    colors: false,
    easyType: false,
    highlighter: false,
    masking: false,
    answerMasking: false,
    readAloud: [],
    glossary: false,
    dictionary: false,
    spelling: false,
    timesTable: false,
    ruler: false,
    protractor: false,
  },
  begins: { print: '', colors: '', easyType: false, language: '', speaks: '', still: false, switch: '' },
  supports: [],
}

/** Whether an item that is left stays as it is answered. */
export const leftForGood = (how: How) => how.forwardOnly || how.afterEach.length > 0

/** How an attempt is given; one that an earlier release left on this device says less, or says it otherwise. */
export const howOf = (take: Schemas['Take'] | undefined): How => (take?.how?.tools ? take.how : usual)
