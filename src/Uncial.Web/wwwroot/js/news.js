// What the server tells while the page stands open: facts that another hand added, and what the gauges send.
// What the page itself does is handed in, so that it is loaded once.
import { followLathe } from './cutting.js';

let page;
let source;
let at = '';
const gauges = new Map();
const holders = new Map();
const landed = new Set();
let turns = null;

export function startNews(does) {
  page = does;
  const main = document.querySelector('main[data-surface]');
  const wanted = main ? `/news?surface=${main.dataset.surface}` + (main.dataset.gauges ?? '').split(' ').filter(Boolean).map(g => `&gauge=${g}`).join('') + lathe(main) : '';
  if (wanted !== at) { at = wanted; turns = null; open(); }
  paint();
}

const lathe = main => main.dataset.lathe ? `&lathe=${main.dataset.lathe}` + main.dataset.targets.split(' ').filter(Boolean).map(t => `&target=${t}`).join('') : '';

function open() {
  source?.close();
  source = null;
  if (!at) return;
  source = new EventSource(at);
  source.addEventListener('part', event => changed(JSON.parse(event.data)));
  source.addEventListener('gauge', event => { const now = JSON.parse(event.data); gauges.set(String(now.gauge), now); paint(); });
  source.addEventListener('holder', event => { const held = JSON.parse(event.data); holders.set(String(held.gauge), held.at); paint(); });
  source.addEventListener('lathe', event => { turns = JSON.parse(event.data); paint(); });
  source.addEventListener('reading', event => land(JSON.parse(event.data)));
  source.addEventListener('error', () => { gauges.clear(); turns = null; paint(); });
}

// The screen that somebody stands at is the one that took the gauge up last.
addEventListener('focus', () => { if (at) open(); });

async function changed({ turn }) {
  for (let i = 0; i < 40 && page.isBusy(); i++) await new Promise(done => setTimeout(done, 50));
  const main = document.querySelector('main[data-surface]');
  if (main && Number(main.dataset.turn) < turn) page.refresh();
}

function paint() {
  followLathe(turns);
  document.querySelectorAll('[data-live]').forEach(line => {
    const now = gauges.get(line.dataset.live);
    const word = line.querySelector('[data-live-word]');
    if (!word || !line.dataset.live || !document.querySelector('main').dataset.gauges?.split(' ').includes(line.dataset.live)) return;
    word.dataset.said ??= word.textContent;
    line.dataset.state = now?.state ?? 'lost';
    const elsewhere = holders.get(line.dataset.live);
    if (elsewhere && now && now.state !== 'lost') { line.dataset.state = 'stale'; word.textContent = `is at ${elsewhere}; G takes it here`; return; }
    word.textContent = !now || now.state === 'lost' ? 'off, type it'
      : now.state === 'stale' ? 'silent, type it'
        : `${now.shows ?? ''}${now.stable ? '' : ', moves'}${now.battery != null && now.battery < 20 ? `, battery ${now.battery} %` : ''}`;
  });
}

// A reading that was sent lands where the next entry goes, once. The gauge goes on sending it until it is stored; what is questioned, or waits
// for the server, is not put in a second time.
async function land({ gauge, line, text, stable }) {
  if (landed.has(line)) return;
  landed.add(line);
  for (let i = 0; i < 100 && page.isBusy(); i++) await new Promise(done => setTimeout(done, 20));
  const field = document.activeElement?.matches(`[data-live-field="${gauge}"]`) ? document.activeElement : null;
  const form = document.querySelector(`form.reading[data-gauge="${gauge}"]`);
  const entry = field ?? form?.querySelector('[data-entry]:not([disabled])');
  if (!entry || document.querySelector(':popover-open')) { answer(gauge, line, false); return; }
  const says = entry.closest('.entry,.field').querySelector('.expands,.says');
  if (!stable) { says.textContent = 'It moves: hold still and send again.'; return; }
  // What a hand has begun to type is not written over.
  if (!field && entry.value.trim()) { says.textContent = 'Finish or wipe what is typed, then send again.'; answer(gauge, line, false); return; }
  entry.value = text;
  if (!field && form.elements.Line) form.elements.Line.value = line;
  entry.dispatchEvent(new Event('input', { bubbles: true }));
  if (!field) { form.requestSubmit(); return; }
  answer(gauge, line, true);
  const fields = [...field.form.elements].filter(e => e.matches('[data-live-field]') && e.offsetParent);
  fields[fields.indexOf(field) + 1]?.focus();
}

// Typed over, a figure is the hand's, not the gauge's.
document.addEventListener('input', event => {
  if (event.isTrusted && event.target.matches('[data-entry]') && event.target.form?.elements.Line) event.target.form.elements.Line.value = '';
});

function answer(gauge, line, taken) {
  const body = new FormData();
  body.append('line', line);
  body.append('taken', taken);
  body.append('__RequestVerificationToken', document.querySelector('[name=__RequestVerificationToken]')?.value ?? '');
  fetch(`/gauges/${gauge}/landed`, { method: 'POST', body, headers: { 'X-Requested-With': 'fetch' } }).catch(() => { /* the gauge sends it again */ });
}
