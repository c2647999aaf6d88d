import { assetCache, page, pageCache } from '@/kept/caches'

/**
 * Keeps on this device what a student's page needs to load again without a network. Where a browser
 * does not offer that (it asks for https) a page still goes on without a network, but does not outlive a reload.
 */
export async function keepPages() {
  if (!('serviceWorker' in navigator) || !('caches' in globalThis) || import.meta.env.DEV) return
  await navigator.serviceWorker.register('/offline.js', { type: 'module' })
  await navigator.serviceWorker.ready
  await (await caches.open(pageCache)).add(page)
  // What this page loaded before the worker was there did not pass through it.
  const kept = await caches.open(assetCache)
  const loaded = performance.getEntriesByType('resource').map((e) => e.name)
  const files = loaded.filter((name) => new URL(name).pathname.startsWith('/assets/'))
  await Promise.all(files.map(async (name) => (await kept.match(name)) ?? kept.add(name)))
}
