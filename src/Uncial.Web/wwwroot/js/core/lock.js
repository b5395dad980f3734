// A screen that several people share: locked by its key or when nobody has touched it for a while. The session is over then; what was
// typed stays on the page beneath, and whoever types a PIN goes on there in the own name.
import { forgetPages } from '../kept/copies.js';
import { keepTyped } from '../kept/typed.js';
import { say } from './words.js';

const sheet = () => document.querySelector('dialog.lock');
let touched = Date.now();
let page;

// Longer than that nobody waits for a lock.
const answersWithin = 8000;

async function lock(isAsked) {
  if (sheet()) return;
  const at = document.activeElement;
  const body = new FormData();
  body.append('__RequestVerificationToken', document.querySelector('[name=__RequestVerificationToken]')?.value ?? '');
  cover();
  let text;
  try {
    const answer = await fetch('/SignIn?handler=Lock', {
      method: 'POST',
      body,
      headers: { 'X-Requested-With': 'fetch' },
      signal: AbortSignal.timeout(answersWithin),
    });
    if (!answer.ok) throw new Error('away');
    text = await answer.text();
  } catch {
    // Without the server nobody could unlock it again: whoever is at work goes on.
    sheet().remove();
    at?.focus({ preventScroll: true });
    touched = Date.now();
    if (isAsked) tell(say('lockAway'));
    return;
  }
  // The session is over: whatever fails from here on, the page stays covered.
  put(text);
  focus();
  document.dispatchEvent(new Event('locked'));
  keepTyped();
  await forgetPages();
}

// The page is covered at once, and shows who may go on as soon as the server has ended the session.
function cover() {
  document.querySelectorAll(':popover-open').forEach(open => open.hidePopover());
  const dialog = document.createElement('dialog');
  dialog.className = 'lock';
  dialog.setAttribute('aria-label', say('lockTitle'));
  const word = document.createElement('p');
  word.className = 'locking';
  word.textContent = say('locking');
  dialog.append(word);
  dialog.addEventListener('cancel', event => event.preventDefault());
  dialog.addEventListener('submit', enter);
  document.body.append(dialog);
  dialog.showModal();
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
