import { clientsClaim } from 'workbox-core'
import { ExpirationPlugin } from 'workbox-expiration'
import { registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'
import { assetCache, contentCache, page, pageCache } from './kept/caches'

/**
 * The worker beside a student's pages: where there is no network they load from this device. What is
 * answered never passes through here; see player/useAttempt.ts and kept/outbox.ts.
 */
const worker = globalThis as unknown as { skipWaiting(): Promise<void> }
void worker.skipWaiting()
clientsClaim()

/** A student's addresses are all one page. The newest is asked for first: its files belong to it. */
registerRoute(
  ({ request, url }) => request.mode === 'navigate' && url.pathname.startsWith(page),
  new NetworkFirst({ cacheName: pageCache, networkTimeoutSeconds: 5, plugins: [{ cacheKeyWillBeUsed: async () => page }] }),
)
/** Names of files carry their content's hash, and so do pictures and documents: what is here is right. */
const few = (maxEntries: number) => new ExpirationPlugin({ maxEntries, purgeOnQuotaError: true })
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/assets/'),
  new CacheFirst({ cacheName: assetCache, plugins: [few(150)] }),
)
registerRoute(
  ({ url, sameOrigin, request }) =>
    sameOrigin && /^\/(media|documents)\//.test(url.pathname) && new URL(request.referrer || url).pathname.startsWith(page),
  new CacheFirst({ cacheName: contentCache, plugins: [few(200)] }),
)
