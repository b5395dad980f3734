// At the lathe: what is ticked, tapped and typed is kept while it is made, in this browser and on the server; clocks run; the read-out is followed.
import { paintSectors } from './pass.js';
import { newest } from './core/drafts.js';
import { say } from './core/words.js';

const clock = seconds => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
const main = () => document.querySelector('main[data-draft-of]');
const form = () => document.querySelector('form[data-draft]');
const key = () => 'draft:' + main().dataset.surface;

/* ---------- drafts ---------- */
// Of what a page keeps hidden only taps and clocks are a hand's own.
// A PIN is never kept.
const fields = f =>
  [...f.elements].filter(
    e => e.name && e.tagName !== 'BUTTON' && e.type !== 'password' && (e.type !== 'hidden' || /^(Dark|Began_)/.test(e.name)),
  );

function gather(f) {
  const values = {};
  for (const e of fields(f)) {
    if (e.type === 'checkbox') {
      if (e.checked) (values[e.name] ??= []).push(e.value);
    } else if (e.value) values[e.name] = e.value;
  }
  return values;
}

// Names this browser to itself, and counts what it keeps.
const browser = (localStorage['draft-browser'] ??= Math.random().toString(36).slice(2));
let count = Date.now();

let sending;
function keep() {
  const f = form();
  if (!f) return;
  const draft = {
    of: main().dataset.draftOf,
    at: Date.now(),
    by: `${browser}:${++count}`,
    unit: document.querySelector('.unit-switch [aria-pressed=true]')?.value,
    values: gather(f),
  };
  localStorage.setItem(key(), JSON.stringify(draft));
  clearTimeout(sending);
  sending = setTimeout(() => push(draft), 300);
}

async function push(draft) {
  const f = form();
  if (!f || draft.of !== main()?.dataset.draftOf) return;
  const body = new FormData();
  body.append('of', draft.of);
  body.append('values', JSON.stringify({ ...draft.values, '': draft.unit, '#': draft.by }));
  body.append('__RequestVerificationToken', f.elements.__RequestVerificationToken.value);
  try {
    await fetch(main().dataset.draftTo, { method: 'POST', body, headers: { 'X-Requested-With': 'fetch' } });
  } catch {
    /* away: this browser has it */
  }
}

function restore() {
  const f = form();
  if (!f || f.dataset.restored) return;
  f.dataset.restored = '';
  const { draftOf, drafted, draftedAt } = main().dataset;
  let local = null;
  try {
    local = JSON.parse(localStorage.getItem(key()));
  } catch {
    /* none */
  }
  if (local?.of !== draftOf) local = null;
  const remote = drafted ? JSON.parse(drafted) : null;
  const newer = newest(local, remote, Number(draftedAt));
  if (!newer) return;
  const unit = document.querySelector('.unit-switch [aria-pressed=true]')?.value;
  for (const e of fields(f)) {
    const value = newer[e.name];
    if (e.type === 'checkbox') e.checked = Boolean(value?.includes(e.value));
    else if (value !== undefined && (e.value === e.defaultValue || e.tagName === 'SELECT') && !e.closest('.is-wrong')) {
      // A bare figure was typed in the unit of then.
      e.value =
        newer[''] && newer[''] !== unit && e.matches('[data-length]') && /^[\d.,\s]+$/.test(value) && Number(value.replace(',', '.')) !== 0
          ? value + newer['']
          : value;
    }
  }
  paintSectors();
  const open = [...f.elements].find(e => e.type === 'checkbox' && !e.checked);
  if (document.activeElement?.type === 'checkbox' && document.activeElement.checked)
    (open ?? f.querySelector('.button.go'))?.focus({ preventScroll: true });
}

document.addEventListener('input', event => {
  if (event.target.form?.matches('[data-draft]')) keep();
});
document.addEventListener('tapped', keep);

/* ---------- ticks: Enter ticks one and goes on to the next, then to the main action ---------- */
document.addEventListener(
  'keydown',
  event => {
    const tick = event.target.closest?.('[data-walk] input[type=checkbox]');
    if (!tick || event.key !== 'Enter' || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    tick.checked = true;
    const all = [...tick.form.elements].filter(e => e.type === 'checkbox');
    const timer = tick.closest('li')?.querySelector('[data-timer]:not([data-over])');
    (all.slice(all.indexOf(tick) + 1).find(e => !e.checked) ?? all.find(e => !e.checked) ?? tick.form.querySelector('.button.go')).focus();
    if (timer) stopTimer(timer);
    keep();
  },
  true,
);

/* ---------- clocks ---------- */
// By this screen's own clock, whatever the server's says: the page tells how long the pass has run when it was made, a kept copy no longer does.
function began(left) {
  let known = null;
  try {
    known = JSON.parse(localStorage.getItem('pass-began'));
  } catch {
    /* none */
  }
  if (known?.start === left.dataset.start) return known.at;
  const at = Date.now() - Number(left.dataset.gone) * 1000;
  localStorage.setItem('pass-began', JSON.stringify({ start: left.dataset.start, at }));
  return at;
}

function run() {
  const done = document.querySelector('[data-only-key][data-start]');
  if (done) done.disabled = Date.now() - began(done) < Number(done.dataset.fewest) * 1000;
  const left = document.querySelector('[data-countdown]');
  if (left) {
    const gone = Math.max(0, Math.floor((Date.now() - began(left)) / 1000));
    const seconds = Number(left.dataset.seconds);
    const over = gone > seconds;
    left.querySelector('[data-left]').textContent = clock(over ? gone - seconds : seconds - gone);
    const word = left.querySelector('[data-left-word]');
    word.textContent = over ? word.dataset.over : word.dataset.running;
    left.classList.toggle('is-over-time', over);
    const bar = left.querySelector('[data-bar]');
    if (bar) {
      left.querySelector('[data-done]').textContent = say('done', clock(Math.min(gone, seconds)));
      bar.setAttribute('width', 364 * Math.min(1, gone / seconds));
    }
    const band = document.querySelector('.sr-cutting');
    if (band) band.style.setProperty('--cut', Math.min(1, gone / seconds));
  }
  document.querySelectorAll('[data-timer]').forEach(tell);
}

const beganOf = timer => document.querySelector(`[name="${timer.dataset.began}"]`);

function tell(timer) {
  const began = Number(beganOf(timer).value);
  const left = Number(timer.dataset.timer) - (began ? Math.floor((Date.now() - began) / 1000) : 0);
  const over = began > 0 && left <= 0;
  timer.querySelector('[data-clock-left]').textContent = clock(Math.max(0, left));
  const word = timer.querySelector('[data-timer-word]');
  word.textContent = over ? word.dataset.over : began ? word.dataset.runs : word.dataset.idle;
  timer.toggleAttribute('data-over', over);
  timer.toggleAttribute('data-runs', began > 0 && !over);
}

function stopTimer(timer) {
  beganOf(timer).value = '';
  tell(timer);
}

document.addEventListener('click', event => {
  const timer = event.target.closest('[data-timer]');
  if (!timer) return;
  const field = beganOf(timer);
  field.value = field.value ? '' : String(Date.now());
  tell(timer);
  keep();
});

setInterval(run, 250);

/* ---------- the lathe's read-out ---------- */
export function followLathe(now) {
  const word = document.querySelector('[data-live-lathe-word]');
  if (!word) return;
  word.textContent = now?.word ?? word.dataset.silent;
  word.closest('[data-live-lathe]').dataset.state = now?.state ?? 'lost';
  document.querySelectorAll('[data-live-dial]').forEach((mark, i) => {
    const dial =
      now?.state === 'connected'
        ? now.dials[
            mark.ownerSVGElement.querySelectorAll('[data-live-dial]').length === 1 && now.dials.length === 2
              ? Number(mark.dataset.liveDial)
              : i
          ]
        : null;
    mark.setAttribute('visibility', dial ? 'visible' : 'hidden');
    if (dial) mark.setAttribute('transform', `rotate(${dial.turn} ${mark.dataset.cx} ${mark.dataset.cy})`);
    const says = mark.ownerSVGElement.querySelector(`[data-live-says="${mark.dataset.liveDial}"]`);
    if (says) says.textContent = dial ? dial.says : '';
  });
}

export function startCutting() {
  if (!main()) return;
  restore();
  run();
}
