// Every print is counted, whichever way it is asked for; what is printed again says that it is a copy.
import { refresh } from './sending.js';
async function count() {
  const form = document.querySelector('[data-prints]:not([data-counted])');
  if (!form) return;
  form.dataset.counted = 'true';
  const answer = await fetch(form.action, { method: 'POST', body: new FormData(form), keepalive: true });
  if (!answer.ok) throw new Error('not counted');
}

document.addEventListener('click', async event => {
  if (!event.target.closest('[data-print]')) return;
  try {
    await count();
    document.body.classList.remove('is-lost');
    window.print();
    await refresh();
  } catch {
    document.querySelector('[data-prints]')?.removeAttribute('data-counted');
    document.body.classList.add('is-lost');
  }
});
addEventListener('beforeprint', () => {
  count().catch(() => {});
});
