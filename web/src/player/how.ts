import type { Schemas } from '@/contract/client'

export type How = Schemas['How']

/** How it is given where nothing else is said, as in an attempt that an earlier release left on this device. */
export const usual: How = {
  directions: '',
  notes: true,
  code: false,
  onePage: false,
  forwardOnly: false,
  afterEach: [],
  marks: true,
  calculator: 'none',
  strikeOut: false,
  lineReader: false,
  scratchPad: false,
  zoom: false,
  colors: false,
  printing: false,
  breaks: 0,
  breaksLeft: 0,
  breakMinutes: 0,
  tries: 1,
  penalty: 0,
}

/** Whether an item that is left stays as it is answered. */
export const leftForGood = (how: How) => how.forwardOnly || how.afterEach.length > 0
