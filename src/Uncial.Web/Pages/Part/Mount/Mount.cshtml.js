// The set-up check: marks are dragged on the face, or stepped with the arrow keys; what they come to is asked of the
// server, again and again.
const snap = 7.5;
const turn = degrees => ((degrees % 360) + 360) % 360;

// By the clock, as an operator says it: 2½, 12, 4¾.
function clock(degrees) {
  const quarters = Math.round(turn(degrees) / snap) % 48;
  const hour = Math.floor(quarters / 4) || 12;
  return quarters % 4 === 0 ? String(hour) : (hour === 12 ? '' : hour) + '¼½¾'[(quarters % 4) - 1];
}

const hours = degrees => String(Math.round((degrees / 30) * 100) / 100);

function state(group) {
  return {
    number: group.dataset.scratch,
    r: Number(group.dataset.r),
    degrees: Number(group.dataset.degrees),
    arc: group.dataset.arc === '' ? null : Number(group.dataset.arc),
  };
}

function draw(group) {
  const [cx, cy] = group.ownerSVGElement.dataset.scratches.split(' ').map(Number);
  const { r, degrees, arc } = state(group);
  const at = d => [cx + r * Math.sin((d * Math.PI) / 180), cy - r * Math.cos((d * Math.PI) / 180)];
  const place = (grip, d) => {
    if (!grip) return;
    grip.setAttribute('transform', `translate(${at(d).join(' ')})`);
    grip.setAttribute('aria-valuenow', Math.round(turn(d)));
  };
  place(group.querySelector('[data-grip=middle]'), degrees);
  if (arc === null) return;
  place(group.querySelector('[data-grip=from]'), degrees - arc / 2);
  place(group.querySelector('[data-grip=to]'), degrees + arc / 2);
  const [from, to] = [at(degrees - arc / 2), at(degrees + Math.min(arc, 359.99) / 2)];
  const path = `M${from.join(' ')}A${r} ${r} 0 ${arc > 180 ? 1 : 0} 1 ${to.join(' ')}`;
  group.querySelectorAll('path').forEach(p => p.setAttribute('d', path));
}

function move(group, grip, degrees) {
  const s = state(group);
  const to = Math.round(degrees / snap) * snap;
  if (grip === 'middle') s.degrees = turn(to);
  else {
    // One end moves, the other stays.
    const [from, end] = [s.degrees - s.arc / 2, s.degrees + s.arc / 2];
    const arc = grip === 'from' ? turn(end - to) || 360 : turn(to - from) || 360;
    s.arc = Math.max(snap, arc);
    s.degrees = turn(grip === 'from' ? end - s.arc / 2 : from + s.arc / 2);
  }
  group.dataset.degrees = s.degrees;
  if (s.arc !== null) group.dataset.arc = s.arc;
  group.classList.remove('is-ghost');
  draw(group);
  const which = s.number === '1' ? 'First' : 'Second';
  const field = name => document.querySelector(`#marks [name="Marks.${which}${name}"]`);
  // The middle of an arc may fall between two quarters: then it is said in degrees.
  field('At').value = turn(s.degrees) % snap === 0 ? clock(s.degrees) : turn(s.degrees) + '°';
  if (s.arc !== null && field('Arc')) field('Arc').value = hours(s.arc);
  ask();
}

/* ---------- what it comes to ---------- */
let asking = false;
let again = false;
let later;

function ask() {
  if (asking) {
    again = true;
    return;
  }
  const form = document.getElementById('marks');
  if (!form) return;
  asking = true;
  again = false;
  tryOut(form).finally(() => {
    asking = false;
    if (again) ask();
  });
}

async function tryOut(form) {
  try {
    const answer = await fetch(form.dataset.try, { method: 'POST', body: new FormData(form), headers: { 'X-Requested-With': 'fetch' } });
    if (again || !form.isConnected) return;
    if (!answer.ok) throw new Error('away');
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html');
    document.body.classList.remove('is-lost');
    for (const selector of ['#set-up', '.stock-rule', '.sheet-head']) swap(selector, page);
    // A reason that is being given stays as it is typed.
    if (!document.querySelector('.anyway[open]')) swap('#set-up-do', page);
    for (const field of document.querySelectorAll('#marks .field')) {
      const name = field.querySelector('input')?.name;
      const told = page.querySelector(`#marks [name="${CSS.escape(name ?? '')}"]`)?.closest('.field');
      if (!told) continue;
      field.classList.toggle('is-wrong', told.classList.contains('is-wrong'));
      if (told.classList.contains('is-wrong') || field.classList.contains('clock'))
        field.querySelector('.says').textContent = told.querySelector('.says').textContent;
    }
    if (held) return;
    for (const group of document.querySelectorAll('[data-scratch]')) {
      const told = page.querySelector(`[data-scratch="${group.dataset.scratch}"]`);
      if (!told) continue;
      Object.assign(group.dataset, { degrees: told.dataset.degrees, arc: told.dataset.arc });
      group.classList.toggle('is-ghost', told.classList.contains('is-ghost'));
      draw(group);
    }
  } catch {
    // No verdict on other marks stands beside these.
    document.body.classList.add('is-lost');
    document.getElementById('set-up')?.classList.add('is-old');
  }
}

// At the last field Enter leads on to the main action, with what was typed shown first.
async function settle(form) {
  clearTimeout(later);
  while (asking) await new Promise(done => setTimeout(done, 30));
  await tryOut(form);
  const wrong = form.querySelector('.is-wrong input');
  (wrong ?? document.querySelector('#set-up-do .button.go:not([disabled])'))?.focus();
  wrong?.select();
}

function swap(selector, page) {
  const [from, to] = [page.querySelector(selector), document.querySelector(selector)];
  if (from && to) to.replaceWith(document.adoptNode(from));
}

/* ---------- pointer and keys ---------- */
let held = null;

function angleAt(svg, event) {
  const [cx, cy] = svg.dataset.scratches.split(' ').map(Number);
  const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
  return turn((Math.atan2(p.x - cx, cy - p.y) * 180) / Math.PI);
}

export function startMount() {
  const svg = document.querySelector('[data-scratches]:not([data-drags])');
  if (!svg) return;
  svg.dataset.drags = '';
  svg.addEventListener('pointerdown', event => {
    const grip = event.target.closest('.grip');
    if (!grip) return;
    held = { group: grip.closest('[data-scratch]'), grip: grip.dataset.grip };
    grip.setPointerCapture(event.pointerId);
    grip.focus();
    event.preventDefault();
  });
  svg.addEventListener('pointermove', event => {
    if (held) move(held.group, held.grip, angleAt(svg, event));
  });
  for (const end of ['pointerup', 'pointercancel'])
    svg.addEventListener(end, () => {
      held = null;
    });
  svg.addEventListener('keydown', event => {
    const grip = event.target.closest('.grip');
    const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!grip || !step) return;
    const group = grip.closest('[data-scratch]');
    const s = state(group);
    const from = grip.dataset.grip === 'middle' ? s.degrees : s.degrees + (grip.dataset.grip === 'from' ? -s.arc / 2 : s.arc / 2);
    move(group, grip.dataset.grip, from + step * (event.shiftKey ? 4 : 1) * snap);
    event.preventDefault();
    event.stopPropagation();
  });
  const form = document.getElementById('marks');
  form.addEventListener('keydown', event => {
    const fields = [...form.querySelectorAll('[data-next]')];
    if (event.key !== 'Enter' || event.target !== fields.at(-1)) return;
    event.preventDefault();
    event.stopPropagation();
    settle(form);
  });
  form.addEventListener('input', event => {
    if (event.target.name === 'Marks.Manner') return;
    clearTimeout(later);
    later = setTimeout(ask, 150);
  });
  // Another manner asks other things: the page is made anew, and what is typed goes along.
  form.addEventListener('change', event => {
    if (event.target.name === 'Marks.Manner') form.dispatchEvent(new CustomEvent('another', { bubbles: true }));
  });
}
