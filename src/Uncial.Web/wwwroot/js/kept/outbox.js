// Readings that were typed while the server was away: they wait in this browser with their time, are shown as waiting, and go in by
// themselves, once each. The server judges them when they arrive; nothing is judged here.
import { spelled } from '../core/units.js';
import { say } from '../core/words.js';

// What the page itself does is passed in, so that it is loaded once.
let page;

const store = 'outbox';
const again = 2000;
let sending = false;

const all = () => {
  try {
    // Until version 2 an item named who typed it "hand".
    return (JSON.parse(localStorage.getItem(store)) ?? []).map(({ hand, ...item }) => ({ person: hand, ...item }));
  } catch {
    return [];
  }
};
const keep = items => {
  localStorage.setItem(store, JSON.stringify(items));
  paint();
};
const person = () => document.body.dataset.person;

// A name for a reading, also where the browser offers no better way (plain http in the shop).
export function newKey() {
  const b = crypto.getRandomValues(new Uint8Array(16));
  b[6] = (b[6] & 15) | 64;
  b[8] = (b[8] & 63) | 128;
  const h = [...b].map(x => x.toString(16).padStart(2, '0')).join('');
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-${h.slice(12, 16)}-${h.slice(16, 20)}-${h.slice(20)}`;
}

// Takes over what a form could not send, and leads on to the next place.
export function hold(form) {
  const data = Object.fromEntries(new FormData(form));
  if (!data.Entry?.trim()) return;
  delete data.__RequestVerificationToken;
  data.Entry = spelled(form.querySelector('[data-entry]'));
  const here = document.querySelector(`[data-place="${data.at}|${data.depth}"]`);
  const items = all().filter(i => i.data.Key !== data.Key);
  items.push({
    data,
    person: person(),
    action: form.action,
    path: location.pathname,
    state: 'waits',
    typedAt: new Date().toISOString(),
    place: `${data.at}|${data.depth}`,
    name: here?.dataset.name ?? '',
    station: here?.dataset.station ?? '',
    text: shown(form),
  });
  keep(items);
  lead(form);
}

// As the gauge showed it.
function shown(form) {
  const start = form.querySelector('.bar input:checked');
  return (start ? start.dataset.name + ' + ' : '') + form.querySelector('[data-entry]').value.trim();
}

function lead(form) {
  mark();
  const heading = form.querySelector('[data-place]');
  const entry = form.querySelector('[data-entry]');
  const next = [...document.querySelectorAll('a[data-place]')].find(
    a => ['toread', 'now'].includes(a.dataset.state) && !a.classList.contains('is-waiting'),
  );
  entry.value = '';
  entry.dispatchEvent(new Event('input', { bubbles: true }));
  form.querySelector('[name=Key]').value = newKey();
  form.querySelector('[name=Seen]').value = 0;
  for (const name of ['Line', 'Fence']) if (form.elements[name]) form.elements[name].value = '';
  form.querySelector('[name=Insisted]')?.remove();
  const note = form.querySelector('[name=Note]');
  if (note) note.value = '';
  const go = form.querySelector('.button.go');
  if (go) go.firstChild.textContent = say('keepHere') + ' ';
  if (!next) {
    heading.textContent = say('allTyped');
    entry.disabled = true;
    form.dataset.done = '';
    return;
  }
  const [at, depth] = next.dataset.place.split('|');
  form.querySelector('[name=at]').value = at;
  form.querySelector('[name=depth]').value = depth;
  heading.textContent = say('placeAt', heading.textContent.split(' at ')[0], next.dataset.name);
  if (next.dataset.station) form.querySelector('[data-why]').textContent = next.dataset.station;
  entry.focus({ preventScroll: true });
}

// Shows on the drawing what waits.
export function mark() {
  for (const item of all().filter(i => i.path === location.pathname)) {
    const place = document.querySelector(`a[data-place="${CSS.escape(item.place)}"]`);
    if (!place) continue;
    place.classList.add('is-waiting');
    const words = [...place.querySelectorAll('.word')];
    const word = words.find(w => w.textContent) ?? words[0];
    if (word) word.textContent = ' ' + say(item.state === 'waits' ? 'itemWaits' : 'itemAsks', item.text);
  }
}

function paint() {
  const box = document.querySelector('[data-outbox]');
  if (!box) return;
  const at = box.contains(document.activeElement) ? document.activeElement : null;
  const items = all();
  const stuck = items.filter(i => i.state !== 'waits');
  const others = items.filter(i => i.person !== person());
  box.hidden = items.length === 0;
  document.body.classList.toggle('has-waiting', items.length > 0);
  if (items.length === 0) {
    box.replaceChildren();
    return;
  }
  const head = document.createElement('p');
  const since = new Date(items[0].typedAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  head.append(document.getElementById('mark-of-waiting').content.cloneNode(true));
  const b = document.createElement('b');
  b.textContent = items.length === 1 ? say('oneWaits') : say('someWait', items.length);
  head.append(b, ` ${say('since', since)} ${say(stuck.length ? 'someAsk' : others.length ? 'ofSomebodyElse' : 'byThemselves')}`);
  const list = document.createElement('ol');
  for (const item of items) {
    const li = document.createElement('li');
    const fig = document.createElement('b');
    fig.className = 'fig';
    fig.textContent = item.text;
    li.append(fig, ` ${item.name}${item.station ? ', ' + item.station : ''}`);
    if (item.message) {
      const says = document.createElement('span');
      says.textContent = item.message;
      li.append(says);
    }
    if (item.state !== 'waits') {
      li.append(
        button('look', item, say('lookAtIt'), () => look(item)),
        button('drop', item, say('dropIt'), () => keep(all().filter(i => i.data.Key !== item.data.Key))),
      );
    }
    list.append(li);
  }
  box.replaceChildren(head, list);
  // Whoever stands at a button here stands at it still when the list is drawn anew.
  if (at) [...box.querySelectorAll('button')].find(b => b.name === at.name && b.value === at.value)?.focus({ preventScroll: true });
}

function button(name, item, text, act) {
  const b = document.createElement('button');
  b.type = 'button';
  b.name = name;
  b.value = item.data.Key;
  b.textContent = text;
  b.addEventListener('click', act);
  return b;
}

// Back to the page where it was typed, with the figure in its field: what is asked is answered there.
async function look(item) {
  const [at, depth] = item.place.split('|');
  const url = `${item.path}?${new URLSearchParams(depth ? { at, depth } : { at })}`;
  const answer = await fetch(url);
  if (!answer.ok) return;
  page.show(await answer.text(), answer.url);
  const entry = document.querySelector('[data-entry]');
  if (!entry) return;
  entry.value = item.data.Entry;
  const start = document.querySelector(`.bar input[value="${CSS.escape(item.data.Start ?? '')}"]`);
  if (start) start.checked = true;
  entry.dispatchEvent(new Event('input', { bubbles: true }));
  keep(all().filter(i => i.data.Key !== item.data.Key));
}

async function flush() {
  if (sending || document.querySelector('dialog.lock')) return;
  const item = all().find(i => i.state === 'waits' && i.person === person());
  if (!item) return;
  sending = true;
  try {
    let answer = await post(item, document.querySelector('[name=__RequestVerificationToken]')?.value);
    if (answer.status === 400) answer = await post(item, await freshToken());
    if (!answer.ok || answer.redirected || !answer.headers.get('Content-Type')?.includes('json')) throw new Error('away');
    const { state, text } = await answer.json();
    const rest = all();
    const same = rest.find(i => i.data.Key === item.data.Key);
    if (state === 'kept') keep(rest.filter(i => i !== same));
    else if (same) {
      same.state = state;
      same.message = text;
      keep(rest);
    }
    if (all().every(i => i.state !== 'waits' || i.person !== person())) {
      document.body.classList.remove('is-lost');
      if (location.pathname === item.path) await page.refresh();
    } else setTimeout(flush, 0);
  } catch {
    // Still away: it stays, and is sent again.
  } finally {
    sending = false;
  }
}

function post(item, token) {
  const data = new FormData();
  for (const [name, value] of Object.entries(item.data)) data.append(name, value);
  data.append('TypedAt', item.typedAt);
  data.append('__RequestVerificationToken', token ?? '');
  return fetch(item.action, { method: 'POST', body: data, headers: { 'X-Outbox': '1' } });
}

async function freshToken() {
  const at = document.body.dataset.practice ? location.pathname : '/';
  const bench = new DOMParser().parseFromString(await (await fetch(at)).text(), 'text/html');
  return bench.querySelector('[name=__RequestVerificationToken]')?.value;
}

let started = false;
export function startOutbox(does) {
  page = does;
  paint();
  mark();
  // A page that came back while the server is away asks for what is still open, not for what waits.
  const form = document.querySelector('form[data-waits]');
  const asked = form && `${form.elements.at.value}|${form.elements.depth.value}`;
  if (form && !location.search && document.querySelector(`a.is-waiting[data-place="${CSS.escape(asked)}"]`)) lead(form);
  if (started) return;
  started = true;
  setInterval(flush, again);
  addEventListener('online', flush);
  addEventListener('storage', event => {
    if (event.key === store) {
      paint();
      mark();
    }
  });
  flush();
}
