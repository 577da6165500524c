/** Answers from what is kept where the network does not. */
const answer = async (request) => {
  try {
    const response = await fetch(request);
    if (response.ok) {
      const cache = await caches.open('harbour');
      await cache.put(request, response.clone());
    }
    return response;
  } catch (error) {
    const kept = await caches.match(request, { ignoreSearch: true });
    if (kept) return kept;
    throw error;
  }
};

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
self.addEventListener('fetch', (event) => {
  const { method, url } = event.request;
  if (method === 'GET' && new URL(url).origin === self.location.origin) event.respondWith(answer(event.request));
});
