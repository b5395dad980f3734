// What every page does: sends its forms without losing what was typed, leads the focus, and lets keys and keypad stand for the mouse.
// No rule of the job lives here: what a typed length means is asked of the server.
import { startEcho } from './echo.js';
import { hold, startOutbox } from './outbox.js';
import { startNews } from './news.js';
import { startPass } from './pass.js';
import { startMarks } from './marks.js';
import { startCutting } from './cutting.js';
import { startPlan } from './plan.js';
import { spelled } from './units.js';

const typed = el => el.matches('input:not([type=checkbox],[type=radio],[type=hidden]),textarea,select');

function arrive() {
  const first = document.querySelector('.is-wrong input,.is-wrong textarea') ?? document.querySelector('[autofocus]:not([popover] *)');
  if (first) {
    first.focus({ preventScroll: true });
    if (first.select && first.closest('.is-wrong')) first.select();
  }
  restoreTyped();
  document.querySelectorAll('[data-book]').forEach(book => { if (book.value === '0' && !book.closest('form').querySelector('.is-wrong')) pickEntry(book); });
  startEcho();
  startPass();
  startMarks();
  startCutting();
  startPlan({ show });
  startOutbox({ refresh, show });
  startNews({ isBusy, refresh });
}

/* ---------- forms ---------- */
let busy = false;
let sent = '';
let shows = 0;

const isBusy = () => busy;

// Whole readings that were typed and entered while an answer was under way: they go to the next places, in their order.
const ahead = [];

function keepAhead(form) {
  const entry = form.matches('[data-waits]') && form.querySelector('[data-entry]');
  if (!entry || !entry.value.startsWith(sent) || entry.value.length === sent.length) return;
  ahead.push(entry.value.slice(sent.length));
  entry.value = sent;
}

function sendAhead() {
  const form = document.querySelector('form[data-waits]:not([data-done])');
  // What is asked of one reading is answered before the next goes on.
  if (!form || ahead.length === 0 || form.querySelector('.is-wrong,[name=Insisted]')) return;
  const entry = form.querySelector('[data-entry]');
  const more = entry.value;
  entry.value = ahead.shift();
  form.requestSubmit();
  entry.value += more;
}

function holdAll(form) {
  const entry = form.querySelector('[data-entry]');
  const more = entry.value.startsWith(sent) ? entry.value.slice(sent.length) : '';
  entry.value = sent;
  hold(form);
  while (ahead.length > 0 && !entry.disabled) { entry.value = ahead.shift(); hold(form); }
  if (!entry.disabled) entry.value = more;
}

async function send(form, button) {
  if (busy) { keepAhead(form); return; }
  busy = true;
  sent = document.querySelector('[data-entry]')?.value ?? '';
  const data = new FormData(form);
  // A form may take another's fields along.
  if (form.dataset.takes) for (const [name, value] of new FormData(document.getElementById(form.dataset.takes))) data.append(name, value);
  if (button?.name) data.append(button.name, button.value);
  const action = button?.getAttribute('formaction') || form.action;
  try {
    const answer = await fetch(action, { method: 'POST', body: data, headers: { 'X-Requested-With': 'fetch' } });
    if (answer.status >= 500) throw new Error('away');
    show(await answer.text(), answer.url);
  } catch {
    form.classList.add('is-lost');
    document.body.classList.add('is-lost');
    // The server is away. A reading waits in the outbox and the next place is asked; anything else stands where it is, and the same key sends it again.
    if (form.matches('[data-waits]')) holdAll(form);
    form.querySelector('[data-lost]')?.scrollIntoView({ block: 'nearest' });
  } finally {
    busy = false;
  }
  sendAhead();
}

// Fetches the page anew and keeps what is being typed on it. One at a time: an answer that was asked for earlier never stands for a later one.
let refreshing = null;
let refreshAgain = false;
async function refresh() {
  if (refreshing) { refreshAgain = true; return refreshing; }
  refreshing = fetchAnew();
  try { await refreshing; } finally { refreshing = null; }
  if (refreshAgain) { refreshAgain = false; await refresh(); }
}

async function fetchAnew() {
  if (busy || document.querySelector(':popover-open')) { setTimeout(refresh, 500); return; }
  const here = location.href;
  // The gauge may stand at this place already: the page goes on asking for it, and what another hand read here is asked about.
  const asks = document.querySelector('form[data-waits]:not([data-done])')?.elements;
  const at = asks && new URLSearchParams(asks.depth.value ? { at: asks.at.value, depth: asks.depth.value } : { at: asks.at.value });
  const seen = asks?.Seen.value;
  const shown = shows;
  try {
    const answer = await fetch(asks ? `${location.pathname}?${at}` : location.pathname + location.search, { headers: { 'X-Requested-With': 'fetch' } });
    // What came in between was asked for by hand and may be older than this: it is asked for once more.
    if (answer.ok && shows !== shown && location.href === here) refreshAgain = true;
    if (!answer.ok || busy || shows !== shown || location.href !== here) return;
    const html = await answer.text();
    const focus = document.activeElement?.name;
    const typing = [...document.querySelectorAll('form[data-swap] input,form[data-swap] textarea')]
      .filter(e => e.name && e.type !== 'hidden' && (e.type === 'checkbox' || e.type === 'radio' ? e.checked !== e.defaultChecked : e.value !== e.defaultValue))
      .map(e => ({ name: e.name, type: e.type, value: e.value, checked: e.checked }));
    show(html, answer.redirected ? answer.url : here);
    const again = document.querySelector('form[data-waits]')?.elements;
    if (again && seen !== undefined) again.Seen.value = seen;
    for (const { name, type, value, checked } of typing) {
      const found = [...document.querySelectorAll(`form[data-swap] [name="${CSS.escape(name)}"]`)].find(e => e.type === type && (!['radio', 'checkbox'].includes(type) || e.value === value));
      if (!found) continue;
      if (type === 'checkbox' || type === 'radio') found.checked = checked;
      else { found.value = value; found.dispatchEvent(new Event('input', { bubbles: true })); }
    }
    if (focus) document.querySelector(`form[data-swap] [name="${CSS.escape(focus)}"]:not([type=hidden])`)?.focus({ preventScroll: true });
  } catch {
    // Away: what stands here is the newest there is.
  }
}

function show(html, url) {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const [from, to] = [page.querySelector('.page,.sign-in'), document.querySelector('.page,.sign-in')];
  const scroll = document.querySelector('.slate')?.scrollTop ?? 0;
  // Another kind of page (signed out, printed tag): go there as the browser does.
  if (!from || !to || from.className !== to.className) { keepTyped(); location.assign(url); return; }
  shows++;
  document.title = page.title;
  document.documentElement.dataset.theme = page.documentElement.dataset.theme;
  document.body.classList.remove('is-lost');
  document.body.dataset.made = page.body.dataset.made;
  keepCopy(html, url);
  // The address of an action is no address of a page.
  const at = new URL(url);
  at.searchParams.delete('handler');
  const same = at.pathname === location.pathname;
  if (at.href !== location.href) history.pushState(null, '', at.href);
  // Digits that came in while the answer was under way belong to the next place.
  const running = document.querySelector('[data-entry]')?.value ?? '';
  const more = running.length > sent.length && running.startsWith(sent) ? running.slice(sent.length) : '';
  to.replaceWith(document.adoptNode(from));
  if (same) document.querySelector('.slate')?.scrollTo(0, scroll);
  const next = document.querySelector('[data-entry]');
  if (more && next && !next.value) next.value = more;
  arrive();
}

addEventListener('popstate', () => location.reload());

/* ---------- a copy for a reload while the server is away ---------- */
const copies = 'uncial-pages';

async function keepCopy(html, url) {
  const at = new URL(url);
  if (!globalThis.caches || !/^\/(measure|confirm|cut)\//.test(at.pathname) || at.searchParams.has('noisy')) return;
  const cache = await caches.open(copies);
  await cache.put(at.pathname, new Response(html, { headers: { 'Content-Type': 'text/html; charset=utf-8' } }));
}

navigator.serviceWorker?.register('/sw.js').catch(() => {});
document.addEventListener('submit', event => { if (event.target.matches('.who-form')) globalThis.caches?.delete(copies); });

// A page that was made long before it came is such a copy: it says so, and is fetched anew as soon as the server is back.
const oldCopy = 15000;
async function freshen() {
  if (Date.now() - Number(document.body.dataset.made) < oldCopy) return;
  document.body.classList.add('is-lost');
  try {
    if ((await fetch('/health')).ok) { await refresh(); return; }
  } catch {
    // still away
  }
  setTimeout(freshen, 2000);
}

document.addEventListener('submit', event => {
  const form = event.target;
  if (form.matches('[data-unit-form]')) keepTyped();
  if (!form.matches('[data-swap]')) return;
  event.preventDefault();
  send(form, event.submitter);
});

/* ---------- a change of unit or theme keeps what is being typed ---------- */
const keptKey = () => 'typed:' + location.pathname;

function keepTyped() {
  const unit = document.querySelector('.unit-switch [aria-pressed=true]')?.value;
  const values = {};
  document.querySelectorAll('form[data-swap]').forEach(form => [...form.elements].filter(e => e.name && typed(e) && e.type !== 'password').forEach(e => {
    values[e.name] = spelled(e, unit);
  }));
  sessionStorage.setItem(keptKey(), JSON.stringify(values));
}

function restoreTyped() {
  const kept = sessionStorage.getItem(keptKey());
  if (!kept) return;
  sessionStorage.removeItem(keptKey());
  for (const [name, value] of Object.entries(JSON.parse(kept))) {
    const field = document.querySelector(`form[data-swap] [name="${CSS.escape(name)}"]`);
    if (field && value) field.value = value;
  }
}

/* ---------- keypad ---------- */
document.addEventListener('click', event => {
  const key = event.target.closest('[data-keypad] .key');
  if (!key) return;
  const entry = key.closest('form').querySelector('[data-entry]');
  if (entry.disabled) return;
  if (key.dataset.do === 'wipe') entry.value = '';
  else if (key.dataset.do === 'back') entry.value = entry.value.slice(0, -1);
  else entry.value += key.dataset.put ?? key.textContent;
  entry.dispatchEvent(new Event('input', { bubbles: true }));
  entry.focus({ preventScroll: true });
});

/* ---------- a depth that is looked for: none, or not looked at ---------- */
function say(input, word) {
  input.value = word;
  input.dispatchEvent(new Event('input', { bubbles: true }));
}

document.addEventListener('click', event => {
  const key = event.target.closest('[data-looks]');
  if (!key) return;
  const input = key.closest('.looks').querySelector('[data-looks-in]');
  say(input, key.dataset.looks);
  // The next field that says nothing yet has its turn.
  const fields = [...input.form.querySelectorAll('[data-looks-in]')].filter(e => e.checkVisibility());
  (fields.slice(fields.indexOf(input) + 1).find(e => !e.value) ?? input).focus();
});

document.addEventListener('keydown', event => {
  const word = { n: 'none', x: 'not looked' }[event.key];
  if (!word || event.ctrlKey || event.metaKey || event.altKey || !event.target.matches?.('[data-looks-in]')) return;
  event.preventDefault();
  say(event.target, word);
});

/* ---------- keys ---------- */
const main = () => document.querySelector('.slate .button.go:not([disabled],[data-only-key])');

document.addEventListener('keydown', event => {
  const undo = document.querySelector('[data-undo]');
  if (event.key === 'z' && (event.ctrlKey || event.metaKey) && undo && document.activeElement?.matches('[data-entry]') && !document.activeElement.value) { event.preventDefault(); undo.click(); return; }
  if (event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return;
  const over = document.querySelector(':popover-open');
  if (over) {
    // A sheet lies over the page: keys move in it or close it, nothing beneath is pressed.
    if (event.key === 'Escape' || event.key === 'w') { event.preventDefault(); over.hidePopover(); }
    return;
  }
  const at = document.activeElement;
  const inField = at && typed(at);
  if (event.key === 'Enter' && inField && at.matches('[data-next]')) {
    // Enter walks on through the fields; at the last it is the main action.
    const fields = [...at.form.elements].filter(e => e.matches('[data-next]') && e.checkVisibility());
    const next = fields[fields.indexOf(at) + 1];
    if (next) { event.preventDefault(); next.focus(); next.select?.(); return; }
  }
  if (event.key === 'Enter' && !inField && !at?.closest('a,button,summary,[role=button],input')) { main()?.click(); event.preventDefault(); return; }
  if (inField) {
    // Enter in a remark goes back to the figure it is about.
    if (event.key === 'Enter' && at.closest('.remark')) { event.preventDefault(); document.querySelector('[data-entry]')?.focus(); return; }
    if (event.key === 'Escape') { at.blur(); event.preventDefault(); }
    return;
  }
  // A key that is held down presses once.
  // What is printed on a button beside the work goes before the letter of a station.
  const key = `[data-key="${CSS.escape(event.key === ' ' ? 'Space' : event.key)}"]:not([disabled])`;
  const named = !event.repeat && (document.querySelector(`.slate ${key}`) ?? document.querySelector(key));
  if (named && !(event.key === ' ' && at?.matches('button,[role=button],input'))) { event.preventDefault(); named.click(); return; }
  if (event.key === 'Escape' && history.length > 1) { history.back(); return; }
  const entry = document.querySelector('[data-entry]:not([disabled])');
  if (entry && /^[\d.,/]$/.test(event.key)) entry.focus({ preventScroll: true }); // the digit itself then lands in the entry
});

document.addEventListener('another', event => send(event.target, { getAttribute: () => event.target.dataset.try }));

document.addEventListener('toggle', event => { if (event.target.matches('.anyway') && event.target.open) event.target.querySelector('input').focus(); }, true);

document.addEventListener('toggle', event => { if (event.target.matches('.remark') && event.target.open) event.target.querySelector('input').focus(); }, true);

/* ---------- corner and kind of a part pick its entry of the limit book ---------- */
document.addEventListener('change', event => {
  const book = event.target.matches('[name=Corner],[name=Kind]') ? event.target.form.querySelector('[data-book]') : null;
  if (book) pickEntry(book);
});

function pickEntry(book) {
  const corner = book.form.querySelector('[name=Corner]:checked')?.value ?? '';
  const part = book.form.querySelector('[name=Kind]:checked')?.value === 'drum' ? 'drum' : 'rotor';
  const axle = corner.startsWith('Front') ? 'front' : corner.startsWith('Rear') ? 'rear' : 'any';
  const fits = [...book.options].find(o => o.dataset.part === part && [axle, 'any'].includes(o.dataset.axle));
  book.value = fits?.value ?? '0';
}

/* ---------- finding while one types ---------- */
let finding;
document.addEventListener('input', event => {
  const input = event.target.closest('[data-find]');
  if (!input) return;
  clearTimeout(finding);
  finding = setTimeout(async () => {
    const url = `${input.form.getAttribute('action')}?${new URLSearchParams(new FormData(input.form))}`;
    try {
      const answer = await fetch(url, { headers: { 'X-Requested-With': 'fetch' } });
      const found = new DOMParser().parseFromString(await answer.text(), 'text/html');
      // Typed on meanwhile: the next answer is on its way.
      if (!answer.ok || url !== `${input.form.getAttribute('action')}?${new URLSearchParams(new FormData(input.form))}`) return;
      for (const id of input.dataset.find.split(' ')) document.getElementById(id)?.replaceWith(document.adoptNode(found.getElementById(id)));
      history.replaceState(null, '', url);
    } catch {
      // Away: what is shown stays.
    }
  }, 120);
});

/* ---------- the clock on the bench ---------- */
setInterval(() => {
  const clock = document.querySelector('[data-clock]');
  if (clock) clock.textContent = new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}, 5000);

arrive();
if (document.querySelector('main[data-surface] :is([data-waits],[data-draft])')) freshen();

/* ---------- printing: every print is counted, whichever way it is asked for, and what is printed again says copy ---------- */
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
addEventListener('beforeprint', () => { count().catch(() => {}); });
