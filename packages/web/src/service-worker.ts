/// <reference lib="webworker" />
import { createHandlerBoundToURL, precacheAndRoute, cleanupOutdatedCaches } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';

declare const self: ServiceWorkerGlobalScope & { __FILES: { url: string; revision: string | null }[] };

// The application itself, every file of it, so that it opens without a network. Data never passes here: what the
// application knows of a class is its own business with the device's storage.
precacheAndRoute(self.__FILES);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//] }));

// A new version waits until the person asks for it: nobody loses a half-typed value to it.
self.addEventListener('message', (event) => {
  if ((event.data as { type?: string } | null)?.type === 'SKIP_WAITING') void self.skipWaiting();
});
