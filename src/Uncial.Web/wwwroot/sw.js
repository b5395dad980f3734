// Keeps the last copy of the pages on which readings are typed, so that a reload finds them while the server is away.
const kept = 'uncial-pages';

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', event => event.waitUntil(self.clients.claim()));
self.addEventListener('message', event => {
  if (event.data === 'claim') event.waitUntil(self.clients.claim());
});

self.addEventListener('fetch', event => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== location.origin) return;
  const page = request.mode === 'navigate' && /^\/(measure|confirm|cut)\//.test(url.pathname) && !url.searchParams.has('noisy');
  const asset = /^\/(css|js|lib|Pages)\//.test(url.pathname);
  if (page || asset) event.respondWith(answer(request, page ? url.origin + url.pathname : request));
});

// A page has one copy, whichever place of the part it asks for.
async function answer(request, name) {
  const cache = await caches.open(kept);
  const last = () => cache.match(name);
  try {
    const fresh = await fetch(request);
    if (fresh.ok && !fresh.redirected) await cache.put(name, fresh.clone());
    return fresh.status >= 500 ? ((await last()) ?? fresh) : fresh;
  } catch (lost) {
    const copy = await last();
    if (copy) return copy;
    throw lost;
  }
}
