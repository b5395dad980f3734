// At the lathe: ticks, the clocks of a pass and of a step, and the twelfths of the clock that stayed dark. Counting and judging is the
// server's.
import { say } from '/js/core/words.js';

const clock = seconds => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;

/* ---------- sectors: tapping a twelfth of the clock turns it dark or clean ---------- */
function toggle(sector) {
  const dark = sector.getAttribute('aria-pressed') !== 'true';
  sector.setAttribute('aria-pressed', dark);
  const face = sector.closest('[data-face]');
  const field = document.querySelector(`input[name="${face.dataset.face}"]`);
  let bits = 0;
  const sectors = [...face.querySelectorAll('.sector')];
  sectors.forEach((s, i) => {
    if (s.getAttribute('aria-pressed') === 'true') bits |= 1 << i;
  });
  field.value = bits;
  document.dispatchEvent(new Event('tapped'));
  const count = sectors.filter(s => s.getAttribute('aria-pressed') === 'true').length;
  face.querySelector('[data-count]').textContent = count;
}

// Shows the sectors as their fields say.
function paintSectors() {
  document.querySelectorAll('[data-face]').forEach(face => {
    const bits = Number(document.querySelector(`input[name="${face.dataset.face}"]`)?.value ?? 0);
    const sectors = [...face.querySelectorAll('.sector')];
    sectors.forEach((s, i) => s.setAttribute('aria-pressed', Boolean(bits & (1 << i))));
    face.querySelector('[data-count]').textContent = sectors.filter((_, i) => bits & (1 << i)).length;
  });
}

function startSectors() {
  document.querySelectorAll('.sector:not([data-taps])').forEach(sector => {
    sector.dataset.taps = '';
    sector.addEventListener('click', () => toggle(sector));
    sector.addEventListener('keydown', event => {
      const all = [...sector.closest('[data-face]').querySelectorAll('.sector')];
      const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
      if (step) all[(all.indexOf(sector) + step + 12) % 12].focus();
      else if (event.key === ' ' || event.key === 'Enter') toggle(sector);
      else return;
      event.preventDefault();
      event.stopPropagation();
    });
  });
}

// What was put back is shown.
document.addEventListener('restored', paintSectors);

/* ---------- ticks: a step that is done needs its clock no more ---------- */
document.addEventListener('ticked', event => {
  const timer = event.target.closest('li')?.querySelector('[data-timer]:not([data-over])');
  if (timer) stopTimer(timer);
  document.dispatchEvent(new Event('tapped'));
});

/* ---------- clocks ---------- */
// By this screen's own clock, whatever the server's says: the page tells how long the pass has run when it was made, a kept copy no longer
// does.
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

function runClocks() {
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
  document.dispatchEvent(new Event('tapped'));
});

setInterval(runClocks, 250);

export function startCut() {
  startSectors();
  if (document.querySelector('main[data-draft-of],main[data-again]')) runClocks();
}
