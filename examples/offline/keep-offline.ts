/** Keeps what the page is made of in the browser, so that it opens without a network. */
export async function keepOffline(): Promise<void> {
  // In development the page changes all the time.
  if (!('serviceWorker' in navigator) || import.meta.env.DEV) return;
  await navigator.serviceWorker.register('/service-worker.js');
  await navigator.serviceWorker.ready;
  const loaded = performance.getEntriesByType('resource').map(({ name }) => new URL(name));
  const own = loaded.filter(({ origin }) => origin === location.origin).map(({ pathname }) => pathname);
  const cache = await caches.open('harbour');
  await cache.addAll([...new Set(['/', '/harbour.webmanifest', '/icon.svg', ...own])]);
  document.documentElement.dataset['kept'] = 'true';
}
