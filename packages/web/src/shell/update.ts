import { ref } from 'vue';
import { Workbox } from 'workbox-window';

/** A newer version of the application is on this device and waits to be taken. */
export const updateWaiting = ref(false);
let workbox: Workbox | null = null;

/** Keeps the application on the device, where the browser can: secure pages and loopback. */
export function registerServiceWorker(): void {
  if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return;
  workbox = new Workbox('/service-worker.js', { type: 'module' });
  workbox.addEventListener('waiting', () => (updateWaiting.value = true));
  workbox.addEventListener('controlling', (event) => {
    if (event.isUpdate) location.reload();
  });
  void workbox.register().catch(() => undefined);
}

/** The browser may let the version in use finish what it is at first, and forget that it was asked. */
const ASK_AGAIN_MS = 1000;

/** Takes the waiting version: the page is loaded again by it. Entries are on the device already. */
export function takeUpdate(): void {
  workbox?.messageSkipWaiting();
  setInterval(() => workbox?.messageSkipWaiting(), ASK_AGAIN_MS);
}
