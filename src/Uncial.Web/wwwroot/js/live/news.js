// What the server tells while the page stands open: facts that somebody else added, and what the gauges send.
// What the page itself does is passed in, so that it is loaded once.
import { followLathe } from './readout.js';
import { sayBelow } from '../core/echo.js';
import { say } from '../core/words.js';

let page;
let source;
let at = '';
const gauges = new Map();
const holders = new Map();
// Lines that were put in, with the owner of the gauge that showed them.
const landed = new Map();
const overtaken = new Set();
let turns = null;

export function startNews(does) {
  page = does;
  // Nobody else works at a part of practice.
  const main = document.body.dataset.practice ? null : document.querySelector('main[data-surface]');
  const wanted = main
    ? `/news?surface=${main.dataset.surface}` +
      (main.dataset.gauges ?? '')
        .split(' ')
        .filter(Boolean)
        .map(g => `&gauge=${g}`)
        .join('') +
      lathe(main)
    : document.querySelector('main[data-board]')
      ? document.querySelector('main[data-wall]')
        ? '/news/board'
        : '/news?board=true'
      : '';
  if (wanted !== at) {
    at = wanted;
    turns = null;
    open();
  }
  paint();
}

const lathe = main =>
  main.dataset.lathe
    ? `&lathe=${main.dataset.lathe}&stage=${main.dataset.stage}` +
      main.dataset.targets
        .split(' ')
        .filter(Boolean)
        .map(t => `&target=${t}`)
        .join('')
    : '';

function open() {
  const before = source;
  source = null;
  if (before?.url !== new URL(at, location.href).href) before?.close();
  if (!at) return;
  source = new EventSource(at);
  // The same page listens on until the new connection stands: a gauge that sends meanwhile would be told that nobody is there.
  source.addEventListener('open', () => {
    before?.close();
    document.body.dataset.news = 'open';
  });
  source.addEventListener('part', event => changed(JSON.parse(event.data)));
  source.addEventListener('board', event => planned(JSON.parse(event.data)));
  source.addEventListener('gauge', event => {
    const now = JSON.parse(event.data);
    gauges.set(String(now.gauge), now);
    paint();
  });
  source.addEventListener('holder', event => {
    const held = JSON.parse(event.data);
    holders.set(String(held.gauge), held.at);
    paint();
  });
  source.addEventListener('lathe', event => {
    turns = JSON.parse(event.data);
    paint();
  });
  source.addEventListener('reading', event => land(JSON.parse(event.data)));
  source.addEventListener('error', () => {
    before?.close();
    delete document.body.dataset.news;
    gauges.clear();
    turns = null;
    paint();
  });
}

// Nobody stands at a screen that is locked: its gauges are told so.
document.addEventListener('locked', () => {
  at = '';
  open();
});

// The screen that somebody stands at is the one that took the gauge up last.
addEventListener('focus', () => {
  if (at) open();
});

async function changed({ turn }) {
  for (let i = 0; i < 40 && page.isBusy(); i++) await new Promise(done => setTimeout(done, 50));
  const main = document.querySelector('main[data-surface]');
  if (main && Number(main.dataset.turn) < turn) page.refresh();
}

// The day was planned anew.
async function planned({ version }) {
  for (let i = 0; i < 40 && page.isBusy(); i++) await new Promise(done => setTimeout(done, 50));
  const main = document.querySelector('main[data-board]');
  // Another instance may have planned it, by another clock: what differs is fetched.
  if (main && Number(main.dataset.board) !== version) page.refresh();
}

function paint() {
  followLathe(turns);
  document
    .querySelectorAll('[data-live-field]')
    .forEach(field => field.toggleAttribute('data-elsewhere', !!holders.get(field.dataset.liveField)));
  document.querySelectorAll('[data-live]').forEach(line => {
    const now = gauges.get(line.dataset.live);
    const word = line.querySelector('[data-live-word]');
    if (!word || !line.dataset.live || !document.querySelector('main').dataset.gauges?.split(' ').includes(line.dataset.live)) return;
    word.dataset.said ??= word.textContent;
    line.dataset.state = now?.state ?? 'lost';
    const elsewhere = holders.get(line.dataset.live);
    if (elsewhere && now && now.state !== 'lost') {
      line.dataset.state = 'stale';
      word.textContent = say('gaugeElsewhere', elsewhere);
      return;
    }
    word.textContent =
      !now || now.state === 'lost'
        ? say('gaugeOff')
        : now.state === 'stale'
          ? say('gaugeSilent')
          : (now.shows ?? '') +
            (now.stable ? '' : say('gaugeMoves')) +
            (now.battery != null && now.battery < 20 ? say('gaugeBattery', now.battery) : '');
  });
}

// A reading that was sent lands where the next entry goes, once. The gauge goes on sending it until it is stored; what is questioned, or
// waits for the server, is not put in a second time.
async function land({ gauge, line, fence, text, stable }) {
  // Another instance has taken the gauge over before it was stored: it goes in once more, as that one's.
  const asked = document.querySelector('form[data-taken-over]');
  const isAgain = landed.has(line) && fence > landed.get(line) && (asked?.dataset.takenOver === line || overtaken.delete(line));
  if (landed.has(line) && !isAgain) return;
  landed.set(line, fence);
  for (let i = 0; i < 100 && page.isBusy(); i++) await new Promise(done => setTimeout(done, 20));
  const field = document.activeElement?.matches(`[data-live-field="${gauge}"]`) ? document.activeElement : null;
  const form = document.querySelector(`form.reading[data-gauge="${gauge}"]`);
  const entry = field ?? form?.querySelector('[data-entry]:not([disabled])');
  if (!entry || document.querySelector(':popover-open')) {
    refuse(gauge, line);
    return;
  }
  if (!stable) {
    sayBelow(entry, say('holdStill'));
    return;
  }
  // What somebody has begun to type is not written over.
  if (!field && !isAgain && entry.value.trim()) {
    sayBelow(entry, say('finishTyped'));
    refuse(gauge, line);
    return;
  }
  entry.value = text;
  entry.dispatchEvent(new Event('input', { bubbles: true }));
  if (field) {
    await storeFigure(gauge, line, fence, field);
    return;
  }
  if (form.elements.Line) [form.elements.Line.value, form.elements.Fence.value] = [line, fence];
  form.requestSubmit();
}

// A figure of a whole face is stored as soon as it comes, by itself; what else is being typed stays. Stored, the server answers the gauge.
async function storeFigure(gauge, line, fence, field) {
  const all = field.form.elements;
  const body = new FormData();
  for (const name of ['Turn', '__RequestVerificationToken']) body.append(name, all[name].value);
  body.append(field.name, field.value);
  body.append('Line', line);
  body.append('Fence', fence);
  body.append('LineFor', /\[(.+)\]/.exec(field.name)[1]);
  try {
    const stored = await fetch(field.form.action, { method: 'POST', body, headers: { 'X-Requested-With': 'fetch' } });
    if (!stored.ok) throw new Error('away');
    const shown = new DOMParser().parseFromString(await stored.text(), 'text/html');
    if (stored.headers.has('X-Taken-Over')) {
      overtaken.add(line);
      return;
    }
    const wrong = shown.querySelector('main .alert:not([data-lost]), .is-wrong .says');
    if (wrong) {
      sayBelow(field, wrong.textContent);
      refuse(gauge, line);
      return;
    }
  } catch {
    sayBelow(field, say('serverAwayKeep'));
    refuse(gauge, line);
    return;
  }
  // What the gauge sent is on record now: the field takes it from there, and the focus goes on to the next field that a gauge fills.
  const mine = document.querySelector(`[name="${CSS.escape(field.name)}"]`);
  if (mine) mine.value = mine.defaultValue;
  await page.refresh();
  const fields = [...document.querySelectorAll('[data-live-field]')].filter(e => e.checkVisibility());
  if (document.activeElement?.name === field.name) fields[fields.findIndex(e => e.name === field.name) + 1]?.focus();
}

// A figure that was typed over is no longer the gauge's.
document.addEventListener('input', event => {
  if (event.isTrusted && event.target.matches('[data-entry]') && event.target.form?.elements.Line)
    event.target.form.elements.Line.value = event.target.form.elements.Fence.value = '';
});

// Whoever puts the cursor where a gauge sends its figure uses it here, whichever screen had it before.
document.addEventListener('focusin', event => {
  const gauge = event.target.dataset?.liveField;
  if (gauge && holders.get(gauge)) tell(gauge, 'takes');
});

// Tells the gauge that nobody takes its reading here. That it was taken is answered by the server, once it is stored.
function refuse(gauge, line) {
  tell(gauge, 'refuses', { line });
}

function tell(gauge, what, fields = {}) {
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) body.append(name, value);
  body.append('__RequestVerificationToken', document.querySelector('[name=__RequestVerificationToken]')?.value ?? '');
  fetch(`/gauges/${gauge}/${what}`, { method: 'POST', body, headers: { 'X-Requested-With': 'fetch' } }).catch(() => {
    /* the gauge sends it again */
  });
}
