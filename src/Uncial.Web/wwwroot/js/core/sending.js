// Sends forms and fetches pages in the background, so that nothing typed is lost when the server is away. A page that was put in place is
// told by the event "arrived".
import { keepCopy } from '../kept/copies.js';
import { hold } from '../kept/outbox.js';
import { keepTyped } from '../kept/typed.js';
let busy = false;
let sent = '';
let shows = 0;

export const isBusy = () => busy;

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
  while (ahead.length > 0 && !entry.disabled) {
    entry.value = ahead.shift();
    hold(form);
  }
  if (!entry.disabled) entry.value = more;
}

// What is typed on while an answer is under way stands in the page that comes, where it has the same field. The entry has its own way.
const typing = form =>
  [...form.elements].filter(e => e.name && e.matches('input:not([type=hidden],[type=checkbox],[type=radio],[data-entry]),textarea'));

function keepLate(before) {
  for (const [field, value] of before) {
    if (field.value === value) continue;
    const again = document.querySelector(`form[data-swap] [name="${CSS.escape(field.name)}"]:not([type=hidden])`);
    if (!again || again === field) continue;
    again.value = field.value;
    again.dispatchEvent(new Event('input', { bubbles: true }));
  }
}

export async function send(form, button) {
  if (busy) {
    keepAhead(form);
    return;
  }
  busy = true;
  const before = new Map(typing(form).map(e => [e, e.value]));
  sent = document.querySelector('[data-entry]')?.value ?? '';
  const data = new FormData(form);
  // A form may take another's fields along.
  if (form.dataset.takes) for (const [name, value] of new FormData(document.getElementById(form.dataset.takes))) data.append(name, value);
  if (button?.name) data.append(button.name, button.value);
  const action = button?.getAttribute('formaction') || form.action;
  try {
    const answer = await fetch(action, { method: 'POST', body: data, headers: { 'X-Requested-With': 'fetch' } });
    if (answer.status >= 500) throw new Error('away');
    const html = await answer.text();
    show(html, answer.url);
    keepLate(before);
  } catch {
    form.classList.add('is-lost');
    document.body.classList.add('is-lost');
    // The server is away. A reading waits in the outbox and the next place is asked; anything else stands where it is, and the
    // same key sends it again.
    if (form.matches('[data-waits]')) holdAll(form);
    form.querySelector('[data-lost]')?.scrollIntoView({ block: 'nearest' });
  } finally {
    busy = false;
  }
  sendAhead();
}

// Fetches the page anew and keeps what is being typed on it. One at a time: an answer that was asked for earlier never stands for a
// later one.
let refreshing = null;
let refreshAgain = false;
export async function refresh() {
  if (refreshing) {
    refreshAgain = true;
    return refreshing;
  }
  refreshing = fetchAnew();
  try {
    await refreshing;
  } finally {
    refreshing = null;
  }
  if (refreshAgain) {
    refreshAgain = false;
    await refresh();
  }
}

// What an element is found by in the page that comes: its name, with its value where several bear one name; a link by where it leads.
function nameOf(element) {
  // The board has several blocks that lead to one page, and finds its own again.
  if (!element || element === document.body || element.type === 'hidden' || element.closest('[data-day]')) return null;
  const { name, type, value, form } = element;
  if (!name)
    return element.getAttribute('href') ?? element.getAttribute('formaction') ?? (type === 'submit' ? form?.getAttribute('action') : null);
  return ['radio', 'checkbox', 'submit', 'button'].includes(type) ? `${name}=${value}` : name;
}

// What somebody is trying stands until it is kept or undone.
const isTried = () => !!document.querySelector('main[data-trial=yes]');

// Somebody else may see the page next: nothing of it is fetched or sent while the screen is locked.
const isLocked = () => !!document.querySelector('dialog.lock');

// What lies open, or is in somebody's hand, is not taken away.
const isHeld = () => !!document.querySelector(':popover-open,.is-dragged');

async function fetchAnew() {
  if (isTried() || isLocked()) return;
  if (busy || isHeld()) {
    setTimeout(refresh, 500);
    return;
  }
  const here = location.href;
  // The gauge may stand at this place already: the page goes on asking for it, and what somebody else read here is asked about.
  const asks = document.querySelector('form[data-waits]:not([data-done])')?.elements;
  const at = asks && new URLSearchParams(asks.depth.value ? { at: asks.at.value, depth: asks.depth.value } : { at: asks.at.value });
  const seen = asks?.Seen.value;
  const shown = shows;
  try {
    const answer = await fetch(asks ? `${location.pathname}?${at}` : location.pathname + location.search, {
      headers: { 'X-Requested-With': 'fetch' },
    });
    // A page that somebody asked for in between may be older than this: it is asked for once more.
    if (answer.ok && shows !== shown && location.href === here) refreshAgain = true;
    if (!answer.ok || busy || isTried() || isLocked() || shows !== shown || location.href !== here) return;
    const html = await answer.text();
    // A sheet that was opened meanwhile, a block that is dragged, a page that came while this one was read: it comes once that is over.
    if (isHeld() || shows !== shown || location.href !== here) {
      refreshAgain = true;
      return;
    }
    const focus = nameOf(document.activeElement);
    const typing = [...document.querySelectorAll('form[data-swap] input,form[data-swap] textarea')]
      .filter(
        e =>
          e.name &&
          e.type !== 'hidden' &&
          (e.type === 'checkbox' || e.type === 'radio' ? e.checked !== e.defaultChecked : e.value !== e.defaultValue),
      )
      .map(e => ({ name: e.name, type: e.type, value: e.value, checked: e.checked }));
    show(html, answer.redirected ? answer.url : here);
    const again = document.querySelector('form[data-waits]')?.elements;
    if (again && seen !== undefined) again.Seen.value = seen;
    for (const { name, type, value, checked } of typing) {
      const found = [...document.querySelectorAll(`form[data-swap] [name="${CSS.escape(name)}"]`)].find(
        e => e.type === type && (!['radio', 'checkbox'].includes(type) || e.value === value),
      );
      if (!found) continue;
      if (type === 'checkbox' || type === 'radio') found.checked = checked;
      else {
        found.value = value;
        found.dispatchEvent(new Event('input', { bubbles: true }));
      }
    }
    if (focus)
      [...document.querySelectorAll('input,select,textarea,button,a')].find(e => nameOf(e) === focus)?.focus({ preventScroll: true });
  } catch {
    // Away: what stands here is the newest there is.
  }
}

export function show(html, url) {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const [from, to] = [page.querySelector('.page,.sign-in'), document.querySelector('.page,.sign-in')];
  const scroll = document.querySelector('.slate')?.scrollTop ?? 0;
  // Another kind of page (signed out, printed tag): go there as the browser does.
  if (!from || !to || from.className !== to.className) {
    keepTyped();
    location.assign(url);
    return;
  }
  shows++;
  document.title = page.title;
  document.documentElement.dataset.theme = page.documentElement.dataset.theme;
  document.body.classList.remove('is-lost');
  for (const fact of ['made', 'person', 'lockAfter']) {
    if (page.body.dataset[fact] === undefined) delete document.body.dataset[fact];
    else document.body.dataset[fact] = page.body.dataset[fact];
  }
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
  document.dispatchEvent(new Event('arrived'));
}

addEventListener('popstate', () => location.reload());

document.addEventListener('submit', event => {
  const form = event.target;
  if (form.matches('[data-unit-form]')) keepTyped();
  if (!form.matches('[data-swap]')) return;
  event.preventDefault();
  send(form, event.submitter);
});

document.addEventListener('another', event => send(event.target, { getAttribute: () => event.target.dataset.try }));
