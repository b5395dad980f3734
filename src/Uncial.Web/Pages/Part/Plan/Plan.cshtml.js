// The lines of the section are moved by divisions of the dial: dragged, or stepped with the arrow keys. What a move comes to is asked
// of the server.
let page;
let asking = false;
let owed = 0;
let grip = null;

const svg = () => document.querySelector('svg.passes[data-step]');
const find = line => svg()?.querySelector(`[data-line="${line}"]`);

async function ask(query, focus) {
  asking = true;
  const url = new URL(location.href);
  for (const [name, value] of Object.entries(query)) url.searchParams.set(name, value);
  try {
    const answer = await fetch(url, { headers: { 'X-Requested-With': 'fetch' } });
    if (!answer.ok) throw new Error('away');
    page.show(await answer.text(), answer.url);
    if (focus) find(focus)?.focus({ preventScroll: true });
  } catch {
    document.body.classList.add('is-lost');
    document.querySelector('[data-lost]')?.closest('div,form').classList.add('is-lost');
  } finally {
    asking = false;
  }
  if (owed !== 0 && grip) move(grip.line, 0);
}

function move(line, by) {
  owed += by;
  if (asking || owed === 0) return;
  const steps = owed;
  owed = 0;
  ask({ move: `${line},${steps}` }, line);
}

document.addEventListener('pointerdown', event => {
  const at = event.target.closest?.('.line-grip');
  if (!at) return;
  event.preventDefault();
  at.focus({ preventScroll: true });
  const box = svg().getBoundingClientRect();
  // The drawing keeps its shape inside its box: one unit of it in pixels.
  const scale = Math.min(box.width / 600, box.height / 412);
  grip = { line: at.dataset.line, y: event.clientY, into: Number(at.dataset.into), step: Number(svg().dataset.step) * scale, moved: 0 };
});

document.addEventListener('pointermove', event => {
  if (!grip) return;
  const steps = Math.round(((event.clientY - grip.y) * grip.into) / grip.step);
  if (steps === grip.moved) return;
  const by = steps - grip.moved;
  grip.moved = steps;
  move(grip.line, by);
});

for (const end of ['pointerup', 'pointercancel'])
  document.addEventListener(end, () => {
    grip = null;
  });

document.addEventListener(
  'keydown',
  event => {
    const at = event.target.closest?.('.line-grip');
    if (!at) return;
    const by = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 1, ArrowLeft: -1, PageDown: 5, PageUp: -5 }[event.key];
    if (by) {
      // Down is down on the drawing: into the metal on the upper side, out of it on the lower.
      const along = ['ArrowDown', 'ArrowUp', 'PageDown', 'PageUp'].includes(event.key) ? Number(at.dataset.into) : 1;
      move(at.dataset.line, by * along * (event.shiftKey ? 5 : 1));
    } else if (event.key === 'Delete' || event.key === 'Backspace') ask({ lift: at.dataset.line.split(',')[0] });
    else return;
    event.preventDefault();
    event.stopImmediatePropagation();
  },
  true,
);

document.addEventListener('click', event => {
  const act = event.target.closest?.('[data-plan-act]');
  if (!act || event.ctrlKey || event.metaKey) return;
  event.preventDefault();
  const url = new URL(act.href);
  ask(Object.fromEntries([...url.searchParams].filter(([name]) => ['lift', 'add'].includes(name))));
});

export function startPlan(does) {
  page = does;
}
