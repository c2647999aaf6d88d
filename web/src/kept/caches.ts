/** Names of what a student's device keeps of the pages, shared with the worker beside them. */
export const pageCache = 'pine-ledger-page'
export const assetCache = 'pine-ledger-assets'
/** Pictures and documents of items; emptied at sign-out. */
export const contentCache = 'pine-ledger-content'
/** The address under which every student's page is kept. */
export const page = '/desk'

/** Empties what is kept of the items' pictures and documents. */
export function forgetContent() {
  if ('caches' in globalThis) void caches.delete(contentCache)
}
