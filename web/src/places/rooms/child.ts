import type { Schemas } from '@/contract/client'

/** What the child's window is told: what it may show, or that it is ready to be told. */
export type ChildView = { shown: Schemas['Shown'] | undefined } | { ready: true }

export const childChannel = (sitting: number) => `pine-ledger-child-${sitting}`
