/// <reference lib="webworker" />
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { answerFromKept, keptCard } from '../media/kept-card'

/**
 * Stands between the app and its server: the app itself is kept whole when it is first opened, the demo's card when the demo is. A new
 * version waits until the editor takes it. The siding is never kept: it is what stands on a card now.
 */
declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] }

precacheAndRoute(self.__WB_MANIFEST)
cleanupOutdatedCaches()
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//] }))

/** What the server says, and what is kept where it says nothing. */
registerRoute(
  ({ url, sameOrigin }) =>
    sameOrigin && (url.pathname === '/api/demo' || url.pathname.startsWith('/api/demo/')),
  async ({ request, url }) => {
    try {
      return await fetch(request)
    } catch (error) {
      const kept = await answerFromKept(await caches.open(keptCard), url, request.headers.get('Range'))
      if (!kept) throw error
      return kept
    }
  },
)

self.addEventListener('message', ({ data }) => {
  if ((data as { type?: string } | null)?.type === 'SKIP_WAITING') void self.skipWaiting()
})
// The first version serves the page that is open already; later ones come when they are taken.
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
