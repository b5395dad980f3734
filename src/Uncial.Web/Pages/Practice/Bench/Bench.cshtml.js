// The virtual bench beside a station: every touch goes to the server, which answers with the bench as it is then. What is drawn here of the
// metal is what the answer holds: steps of light, and no size.
import { playHeard, startSound } from '/js/live/sound.js';
import { startDrill } from '/Pages/Practice/Drill.cshtml.js';

const panel = () => document.querySelector('[data-at-bench]');
let queued = null;
let isUnderWay = false;

async function touch(act) {
  const form = panel()?.querySelector('[data-bench-form]');
  if (!form) return;
  // While an answer is under way the newest touch waits; what a hand passes over in between is passed over here too.
  if (isUnderWay) {
    queued = act;
    return;
  }
  isUnderWay = true;
  panel().setAttribute('aria-busy', 'true');
  const data = new FormData(form);
  data.set('Act', act);
  try {
    const answer = await fetch(form.action, { method: 'POST', body: data, headers: { 'X-Requested-With': 'fetch' } });
    if (answer.redirected) {
      location.assign(answer.url);
      return;
    }
    if (!answer.ok) throw new Error('away');
    put(await answer.text(), act);
  } catch {
    const lost = panel()?.querySelector('[data-bench-lost]');
    if (lost) lost.hidden = false;
    queued = null;
  } finally {
    isUnderWay = false;
    panel()?.removeAttribute('aria-busy');
  }
  if (queued) {
    const next = queued;
    queued = null;
    await touch(next);
  }
}

function put(html, act) {
  const old = panel();
  const fresh = new DOMParser().parseFromString(html, 'text/html').querySelector('[data-at-bench]');
  if (!old || !fresh) return;
  const focused = old.contains(document.activeElement) ? document.activeElement : null;
  const arrow = focused?.dataset?.arrow;
  const value = focused?.value;
  fresh.hidden = old.hidden;
  const [from, to] = [old, fresh].map(p => p.querySelector('svg[data-closer]'));
  if (from && to && from.dataset.closer === to.dataset.closer) to.closerStep = from.closerStep;
  old.replaceWith(document.adoptNode(fresh));
  // The focus stays where it was: at the same key, else at the one that stands in its place.
  if (focused) {
    const again =
      (focused === old ? fresh : [...fresh.querySelectorAll('button')].find(b => b.value === value)) ||
      (arrow && fresh.querySelector(`[data-arrow="${arrow}"]`)) ||
      fresh.querySelector(`[value="${CSS.escape(act)}"]`) ||
      fresh;
    again.focus({ preventScroll: true });
  }
  draw(fresh);
  startDrill();
  playHeard(fresh, act);
}

// Metal from what light shows: steps of shade at each spot, brighter where a tool has been, run into one another as an eye sees them.
function draw(within) {
  for (const canvas of within.querySelectorAll('canvas[data-face]')) {
    const face = readFace(canvas.dataset);
    const pen = canvas.getContext('2d');
    const { width, height } = canvas;
    pen.clearRect(0, 0, width, height);
    if (canvas.dataset.round === 'yes') drawRound(pen, width, height, face, canvas.dataset);
    else drawBore(pen, width, height, face);
  }
}

function readFace({ face, feed }) {
  const rows = face.split(' ');
  const spots = rows[0].length;
  const light = new Float32Array(rows.length * spots);
  const bright = new Float32Array(rows.length * spots);
  rows.forEach((row, s) => {
    for (let i = 0; i < spots; i++) {
      const isBright = row[i] >= 'a';
      light[s * spots + i] = isBright ? row.charCodeAt(i) - 97 : Number(row[i]);
      bright[s * spots + i] = isBright ? 1 : 0;
    }
  });
  return { light, bright, stations: rows.length, spots, hasFeed: feed === 'yes' };
}

// A value between spots: stations do not go round, angles do.
function between(values, { stations, spots }, station, spot) {
  const s = Math.min(Math.max(station, 0), stations - 1);
  const s0 = Math.floor(s);
  const s1 = Math.min(s0 + 1, stations - 1);
  const i0 = ((Math.floor(spot) % spots) + spots) % spots;
  const i1 = (i0 + 1) % spots;
  const [ds, di] = [s - s0, spot - Math.floor(spot)];
  const a = values[s0 * spots + i0] * (1 - di) + values[s0 * spots + i1] * di;
  const b = values[s1 * spots + i0] * (1 - di) + values[s1 * spots + i1] * di;
  return a * (1 - ds) + b * ds;
}

function paint(image, at, face, station, spot, across) {
  const light = between(face.light, face, station, spot) + (face.hasFeed ? 0.35 * Math.sin(across * 2.1) : 0);
  const bright = between(face.bright, face, station, spot);
  const dull = [30 + light * 15, 26 + light * 14, 22 + light * 12.5];
  const cut = [92 + light * 16.5, 98 + light * 16.5, 106 + light * 16];
  for (let c = 0; c < 3; c++) image.data[at + c] = dull[c] * (1 - bright) + cut[c] * bright;
  image.data[at + 3] = 255;
}

function drawRound(pen, width, height, face, { light, waves }) {
  const [cx, cy, outer] = [width / 2, height / 2, Math.min(width, height) / 2 - (width > 300 ? 26 : 18)];
  const inner = outer * 0.5;
  const image = pen.createImageData(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const r = Math.hypot(x - cx, y - cy);
      if (r > outer || r < inner) continue;
      const turn = Math.atan2(x - cx, cy - y) / (2 * Math.PI);
      paint(
        image,
        (y * width + x) * 4,
        face,
        ((r - inner) / (outer - inner)) * face.stations - 0.5,
        (((turn % 1) + 1) % 1) * face.spots,
        r,
      );
    }
  pen.putImageData(image, 0, 0);
  marks(pen, cx, cy, inner, outer, { light, waves });
}

// The bore unrolled, its open edge above.
function drawBore(pen, width, height, face) {
  const foot = width > 300 ? 30 : 0;
  const image = pen.createImageData(width, height - foot);
  for (let y = 0; y < height - foot; y++)
    for (let x = 0; x < width; x++)
      paint(image, (y * width + x) * 4, face, (y / (height - foot)) * face.stations - 0.5, (x / width) * face.spots, y);
  pen.putImageData(image, 0, 0);
  pen.fillStyle = getComputedStyle(document.body).color;
  pen.font = '600 17px sans-serif';
  if (!foot) return;
  ['12', '3', '6', '9', '12'].forEach((name, i) => {
    pen.textAlign = ['left', 'center', 'center', 'center', 'right'][i];
    pen.fillText(name, (i * width) / 4, height - 8);
  });
}

// The hat, the marked stud, where the lamp stands; chatter as rays.
function marks(pen, cx, cy, inner, outer, { light, waves }) {
  const style = getComputedStyle(document.body);
  const ink = style.getPropertyValue('--ink') || '#1d2428';
  pen.fillStyle = style.getPropertyValue('--iron') || '#c6cbcc';
  pen.beginPath();
  pen.arc(cx, cy, inner - 2, 0, 7);
  pen.fill();
  pen.fillStyle = style.getPropertyValue('--paper') || '#f2f4f1';
  pen.beginPath();
  pen.arc(cx, cy, inner * 0.36, 0, 7);
  pen.fill();
  pen.fillStyle = ink;
  pen.beginPath();
  pen.arc(cx, cy - inner * 0.68, 7, 0, 7);
  pen.fill();
  if (Number(waves) > 0) {
    pen.strokeStyle = 'hsl(205 20% 30% / .5)';
    pen.lineWidth = 1.4;
    for (let w = 0; w < Number(waves); w++) {
      const at = (w / Number(waves)) * 2 * Math.PI;
      pen.beginPath();
      pen.moveTo(cx + inner * Math.cos(at), cy + inner * Math.sin(at));
      pen.lineTo(cx + outer * Math.cos(at + 0.12), cy + outer * Math.sin(at + 0.12));
      pen.stroke();
    }
  }
  const lamp = (Number(light) / 180) * Math.PI - Math.PI / 2;
  pen.fillStyle = style.getPropertyValue('--brass') || '#d9a93f';
  pen.strokeStyle = ink;
  pen.lineWidth = 2;
  pen.beginPath();
  const far = outer + (outer > 150 ? 14 : 9);
  pen.arc(cx + far * Math.cos(lamp), cy + far * Math.sin(lamp), outer > 150 ? 9 : 6, 0, 7);
  pen.fill();
  pen.stroke();
}

// The bench or the sheet of the station: the choice holds until another station is come to.
function showBench(isShown) {
  const at = panel();
  const key = document.querySelector('[data-bench-toggle]');
  if (key) {
    key.hidden = !at;
    key.querySelector('b').textContent = isShown ? key.dataset.sheet : key.dataset.bench;
    key.setAttribute('aria-pressed', String(isShown));
  }
  if (at) at.hidden = !isShown;
  // The scratches stand beside the sheet on which they are entered.
  const scratches = at?.querySelector('svg.scratch-pair');
  const aside = document.querySelector('main > aside');
  if (!isShown && scratches && aside) {
    const copy = scratches.cloneNode(true);
    copy.setAttribute('viewBox', '100 4 400 424');
    aside.replaceChildren(copy);
  }
}

const sheet = () => document.querySelector('main > .sheet:not(.at-bench)');
const isAskedOnSheet = () =>
  !!sheet()?.querySelector('.is-wrong') ||
  (!!document.querySelector('.slate .says.is-wrong.is-loud') && !!sheet()?.querySelector('input[type=checkbox]:not(:checked)'));

// A tick that the browser misses stands on the sheet.
document.addEventListener(
  'invalid',
  event => {
    if (document.body.dataset.practice && sheet()?.contains(event.target)) showBench(false);
  },
  true,
);

const here = () => `bench ${location.pathname}`;

export function startBench() {
  if (!document.body.dataset.practice) return;
  // What was asked and not answered on the sheet is shown.
  showBench(sessionStorage.getItem(here()) !== 'sheet' && !isAskedOnSheet());
  const at = panel();
  if (at) draw(at);
  // A micrometer is held near to the eye from the start.
  const micrometer = at?.querySelector('svg[data-closer="390 235"]:not([data-nearer])');
  if (micrometer) {
    micrometer.dataset.nearer = '';
    if (!micrometer.closerStep) at.querySelector('[data-closer-key]')?.click();
  }
  // Where a part is looked at the lamp comes first.
  if (at && !at.hidden && document.querySelector('.look-form')) at.focus({ preventScroll: true });
  startSound();
}

document.addEventListener('click', event => {
  if (event.target.closest?.('[data-bench-toggle]')) {
    const isShown = panel()?.hidden;
    sessionStorage.setItem(here(), isShown ? 'bench' : 'sheet');
    showBench(isShown);
  }
});

document.addEventListener('submit', event => {
  if (!event.target.matches?.('[data-bench-form]')) return;
  event.preventDefault();
  if (event.submitter?.value) touch(event.submitter.value);
});

// Arrows move what is held, from the entry too as long as nothing is typed in it.
const moves = new Set(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'PageUp', 'PageDown', 'Home', 'End']);

document.addEventListener(
  'keydown',
  event => {
    const at = panel();
    if (!at || at.hidden || event.ctrlKey || event.metaKey || document.querySelector(':popover-open')) return;
    if (event.altKey && /^[1-6]$/.test(event.key)) {
      event.preventDefault();
      at.focus({ preventScroll: true });
      at.querySelector(`[data-alt="${event.key}"]`)?.click();
      return;
    }
    if (event.altKey || event.shiftKey || !moves.has(event.key)) return;
    const field = document.activeElement;
    if (field?.matches('input[type=radio],select,textarea') || (field?.matches('input') && (!field.matches('[data-entry]') || field.value)))
      return;
    const key = at.querySelector(`[data-arrow="${event.key}"]:not([disabled])`);
    if (!key) return;
    event.preventDefault();
    event.stopPropagation();
    touch(key.value);
  },
  true,
);

// A gauge is rocked by dragging: a finger's breadth is a few steps.
const STEP_PX = 14;

document.addEventListener('pointerdown', event => {
  const hold = event.target.closest?.('[data-hold]');
  if (!hold || event.button !== 0 || !panel().querySelector('[value^="rock:"]')) return;
  event.preventDefault();
  let from = event.clientX;
  const move = at => {
    const steps = Math.trunc((at.clientX - from) / STEP_PX);
    if (steps === 0) return;
    from += steps * STEP_PX;
    touch(`rock:${steps}`);
  };
  const end = () => {
    removeEventListener('pointermove', move);
    removeEventListener('pointerup', end);
    removeEventListener('pointercancel', end);
  };
  addEventListener('pointermove', move);
  addEventListener('pointerup', end);
  addEventListener('pointercancel', end);
});
