// A screen that several people share: locked by its key or when nobody has touched it for a while. The session is over then; what was
// typed stays on the page beneath, and whoever types a PIN goes on there in the own name.
import { forgetPages } from '../kept/copies.js';
import { keepTyped } from '../kept/typed.js';
import { say } from './words.js';

const sheet = () => document.querySelector('dialog.lock');
let touched = Date.now();
let locking = false;
let page;

async function lock(isAsked) {
  if (locking || sheet()) return;
  locking = true;
  const body = new FormData();
  body.append('__RequestVerificationToken', document.querySelector('[name=__RequestVerificationToken]')?.value ?? '');
  try {
    const answer = await fetch('/SignIn?handler=Lock', { method: 'POST', body, headers: { 'X-Requested-With': 'fetch' } });
    if (!answer.ok) throw new Error('away');
    keepTyped();
    await forgetPages();
    document.querySelectorAll(':popover-open').forEach(open => open.hidePopover());
    const dialog = document.createElement('dialog');
    dialog.className = 'lock';
    dialog.setAttribute('aria-label', say('lockTitle'));
    document.body.append(dialog);
    put(await answer.text());
    dialog.addEventListener('cancel', event => event.preventDefault());
    dialog.addEventListener('submit', enter);
    dialog.showModal();
    focus();
    document.dispatchEvent(new Event('locked'));
  } catch {
    // Without the server nobody could unlock it again: whoever is at work goes on.
    if (isAsked) tell(say('lockAway'));
  } finally {
    locking = false;
  }
}

function tell(text) {
  const line = document.createElement('p');
  line.className = 'alert lock-away';
  line.setAttribute('role', 'alert');
  line.textContent = text;
  document.body.append(line);
  setTimeout(() => line.remove(), 8000);
}

function put(html) {
  const shown = new DOMParser().parseFromString(html, 'text/html').querySelector('main.sign-in');
  shown.removeAttribute('id');
  sheet().replaceChildren(document.adoptNode(shown));
}

const focus = () => (sheet().querySelector('[data-entry]:not([disabled])') ?? sheet().querySelector('.name-tiles button')).focus();

async function enter(event) {
  event.preventDefault();
  event.stopPropagation();
  const form = event.target;
  const data = new FormData(form, event.submitter);
  try {
    const answer =
      form.method === 'get'
        ? await fetch(`/SignIn?over=true&${new URLSearchParams(data)}`)
        : await fetch(form.action, { method: 'POST', body: data, headers: { 'X-Requested-With': 'fetch' } });
    if (answer.status === 204) {
      touched = Date.now();
      sheet().remove();
      await page.refresh();
      return;
    }
    if (!answer.ok) throw new Error('away');
    put(await answer.text());
    focus();
  } catch {
    form.classList.add('is-lost');
  }
}

for (const kind of ['pointerdown', 'keydown', 'wheel', 'touchstart'])
  addEventListener(kind, () => (touched = Date.now()), { capture: true, passive: true });
document.addEventListener('click', event => {
  if (event.target.closest('[data-lock]')) lock(true);
});
setInterval(() => {
  const after = Number(document.body.dataset.lockAfter);
  if (after && Date.now() - touched > after * 60000) lock(false);
}, 1000);

export function startLock(does) {
  page = does;
}
