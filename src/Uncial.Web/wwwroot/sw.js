// Keeps the last copy of the pages on which readings are typed, so that a reload finds them while the server is away.
const kept = 'uncial-pages';
const fingerprint = /\.[a-z0-9]{10}(?=\.)/;

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
  if (asset && fingerprint.test(url.pathname)) event.respondWith(once(request));
  else if (page || asset) event.respondWith(answer(request, page ? url.origin + url.pathname : request));
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

// What a fingerprint names never changes, where the server says so (in development it does not): it is asked for once, and what it
// replaces goes.
async function once(request) {
  const cache = await caches.open(kept);
  const copy = await cache.match(request);
  if (copy?.headers.get('Cache-Control')?.includes('immutable')) return copy;
  const fresh = await answer(request, request);
  const plain = request.url.replace(fingerprint, '');
  for (const old of await cache.keys()) if (old.url !== request.url && old.url.replace(fingerprint, '') === plain) await cache.delete(old);
  return fresh;
}
