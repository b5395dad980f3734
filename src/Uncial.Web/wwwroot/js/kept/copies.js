// The last copy of a measuring page, for a reload while the server is away.
const copies = 'uncial-pages';

const isOfPart = at => /^\/(measure|confirm|cut)\//.test(at.pathname);

export async function keepCopy(html, url) {
  const at = new URL(url);
  if (!globalThis.caches || !isOfPart(at) || at.searchParams.has('noisy')) return;
  const cache = await caches.open(copies);
  await cache.put(at.pathname, new Response(html, { headers: { 'Content-Type': 'text/html; charset=utf-8' } }));
}

// Whoever reloads a locked screen while the server is away finds no page of the one who locked it.
export async function forgetPages() {
  const cache = await globalThis.caches?.open(copies);
  for (const kept of (await cache?.keys()) ?? []) if (isOfPart(new URL(kept.url))) await cache.delete(kept);
}

// A page that was on its way while the worker woke up is not claimed by it: it asks to be.
navigator.serviceWorker
  ?.register('/sw.js')
  .then(() => navigator.serviceWorker.ready)
  .then(ready => {
    if (!navigator.serviceWorker.controller) ready.active.postMessage('claim');
  })
  .catch(() => {});
document.addEventListener('submit', event => {
  if (event.target.matches('.who-form')) globalThis.caches?.delete(copies);
});

// A page that was made long before it came is such a copy: it says so, and is fetched anew as soon as the server is back.
const oldCopy = 15000;
export async function freshen(refresh) {
  if (Date.now() - Number(document.body.dataset.made) < oldCopy) return;
  document.body.classList.add('is-lost');
  try {
    if ((await fetch('/health')).ok) {
      await refresh();
      return;
    }
  } catch {
    // still away
  }
  setTimeout(() => freshen(refresh), 2000);
}
