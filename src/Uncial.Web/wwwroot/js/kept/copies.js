// The last copy of a measuring page, for a reload while the server is away.
const copies = 'uncial-pages';

export async function keepCopy(html, url) {
  const at = new URL(url);
  if (!globalThis.caches || !/^\/(measure|confirm|cut)\//.test(at.pathname) || at.searchParams.has('noisy')) return;
  const cache = await caches.open(copies);
  await cache.put(at.pathname, new Response(html, { headers: { 'Content-Type': 'text/html; charset=utf-8' } }));
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
