// The day's board: arrows walk its blocks, a block says what it is below the board, Shift and an arrow or a drag tries a move. What a move
// costs is asked of the server.
const blocks = () => [...document.querySelectorAll('[data-day] .block')];
const drawing = () => document.querySelector('[data-day] svg');

// Which block has the focus, and where blocks stood before the page was put in place anew.
let focused = null;
let stood = new Map();
// The board as a whole had the focus: the arrows begin to walk from there.
let waits = false;

let page;

export function startBoard(does) {
  page = does;
  clearTimeout(leaving);
  if (document.querySelector('main[data-trial=yes]')) leaving = setTimeout(undoTrial, LEFT_ALONE);
  const day = document.querySelector('[data-day]');
  if (!day) {
    stood = new Map();
    return;
  }
  if (!day.dataset.shown) {
    day.dataset.shown = 'yes';
    keepNowInSight(day);
    day.addEventListener('focusin', event => about(event.target.closest('.block')));
    day.addEventListener('pointerdown', beginDrag);
  }
  if (waits && !focused && document.activeElement === document.body) day.focus({ preventScroll: true });
  const now = new Map(blocks().map(b => [b.dataset.block, b.dataset.at]));
  if (stood.size > 0) for (const block of blocks()) if (stood.get(block.dataset.block) !== block.dataset.at) block.classList.add('is-new');
  stood = now;
  const again = blocks().find(b => b.dataset.block === focused) ?? document.querySelector('.block.is-chosen');
  (again ?? blocks().find(b => !b.matches('.is-done')) ?? blocks()[0])?.setAttribute('tabindex', '0');
  // A sheet that lies over the board keeps the focus.
  if (again && (focused || document.querySelector('.is-trial')) && !document.querySelector(':popover-open'))
    again.focus({ preventScroll: true });
}

// The line of now stands a quarter from the left where the hours are wider than the screen.
function keepNowInSight(day) {
  const line = day.querySelector('.now');
  if (!line || day.scrollWidth <= day.clientWidth) return;
  const at = line.getBoundingClientRect().left - drawing().getBoundingClientRect().left;
  day.scrollLeft = at - day.clientWidth / 4;
}

function about(block) {
  const form = document.querySelector('[data-block-form]');
  document.querySelectorAll('.block.is-shown').forEach(b => b.classList.remove('is-shown'));
  if (!block) return;
  focused = block.dataset.block;
  blocks().forEach(b => b.setAttribute('tabindex', b === block ? '0' : '-1'));
  if (!form) return;
  block.classList.add('is-shown');
  form.hidden = false;
  document.querySelector('[data-held]').hidden = true;
  form.querySelector('[data-about]').textContent = block.dataset.about;
  const { elements } = form;
  form.querySelector('[data-open-part]').setAttribute('href', block.getAttribute('href'));
  elements.Surface.value = block.dataset.surface;
  elements.Lathe.value = block.dataset.lathe;
  elements.Place.value = block.dataset.place;
  elements.Seen.value = block.dataset.seen;
  elements.JobId.value = block.dataset.job;
  elements.urgent.value = block.dataset.urgent ? 'false' : 'true';
  const moves = block.dataset.place !== '';
  for (const button of form.querySelectorAll('[data-move],[data-pin],[data-not-before]')) only(button, moves);
  const later = document.querySelector('[data-later-form]');
  later.elements.Surface.value = block.dataset.surface;
  later.elements.Seen.value = block.dataset.seen;
  later.querySelector('[data-later-about]').textContent = block.dataset.about;
  only(form.querySelector('[data-pin]'), moves && !block.dataset.pinned);
  only(form.querySelector('[data-unpin]'), !!block.dataset.pinned);
  only(form.querySelector('[data-urgent]'), !block.dataset.urgent);
  only(form.querySelector('[data-not-urgent]'), !!block.dataset.urgent);
}

function only(button, is) {
  button.hidden = !is;
  button.disabled = !is;
}

const keepsTrial = block => document.querySelector('[data-keep-trial]') && (block || document.activeElement === document.body);

const middle = element => {
  const box = element.getBoundingClientRect();
  return { x: box.left + box.width / 2, y: box.top + box.height / 2 };
};

// The nearest block in a direction: within the own lane, or in the next lane that has one.
function beside(block, key) {
  const from = middle(block);
  const others = blocks().filter(b => b !== block);
  const across = key === 'ArrowLeft' || key === 'ArrowRight';
  const sign = key === 'ArrowLeft' || key === 'ArrowUp' ? -1 : 1;
  const fits = others.filter(b => {
    const to = middle(b);
    return across ? Math.abs(to.y - from.y) < 14 && sign * (to.x - from.x) > 0 : sign * (to.y - from.y) > 14;
  });
  const far = b => {
    const to = middle(b);
    return across ? Math.abs(to.x - from.x) : Math.abs(to.y - from.y) * 4 + Math.abs(to.x - from.x);
  };
  return fits.sort((a, b) => far(a) - far(b))[0];
}

// Where a block would go: a place sooner or later on its lathe, or another lathe.
function tryMove(block, key) {
  if (block.dataset.place === '') return;
  const place = Number(block.dataset.place);
  if (key === 'ArrowLeft' || key === 'ArrowRight') {
    ask(block, block.dataset.lathe, Math.max(0, place + (key === 'ArrowLeft' ? -1 : 1)));
    return;
  }
  const lathes = [...document.querySelectorAll('[data-lathe-name]')].map(l => l.dataset.latheName);
  const next = lathes[lathes.indexOf(block.dataset.lathe) + (key === 'ArrowUp' ? -1 : 1)];
  if (next) ask(block, next, place);
}

// A move that is tried and left alone is undone: behind it the board stands still.
const LEFT_ALONE = 120_000;
let leaving;

// The board as it stands comes back, with whatever was planned meanwhile.
function undoTrial() {
  document.querySelector('main[data-trial]').dataset.trial = '';
  page.refresh();
}

function ask(block, lathe, place) {
  const form = document.querySelector('[data-block-form],[data-trial-form]');
  if (!form) return;
  focused = block.dataset.block;
  form.elements.Surface.value = block.dataset.surface;
  form.elements.Seen.value = block.dataset.seen;
  form.elements.Lathe.value = lathe;
  form.elements.Place.value = place;
  const go = document.createElement('button');
  go.setAttribute('formaction', '/?handler=Try');
  go.hidden = true;
  form.append(go);
  form.requestSubmit(go);
}

document.addEventListener(
  'keydown',
  event => {
    if (event.ctrlKey || event.metaKey || event.altKey || !document.querySelector('main[data-board]')) return;
    if (document.querySelector(':popover-open')) return;
    const block = document.activeElement?.closest?.('[data-day] .block');
    const arrow = event.key.startsWith('Arrow');
    if (event.key === 'Escape') {
      const undo = document.querySelector('[data-undo-trial]');
      if (!undo && !block) return;
      if (undo) undoTrial();
      else block.blur();
      focused = undo ? focused : null;
    } else if (event.key === 'Enter' && keepsTrial(block)) {
      document.querySelector('[data-keep-trial]').click();
    } else if (arrow && document.activeElement?.matches('[data-day]')) {
      (blocks().find(b => b.getAttribute('tabindex') === '0') ?? blocks()[0])?.focus();
    } else if (arrow && block && event.shiftKey) {
      tryMove(block, event.key);
    } else if (arrow && block) {
      beside(block, event.key)?.focus();
    } else if (event.key === 'o' && block?.dataset.lathe) {
      document.getElementById(`lathe-${block.dataset.lathe}`)?.showPopover();
    } else {
      return;
    }
    event.preventDefault();
    event.stopPropagation();
  },
  true,
);

// The buttons below the board do what Shift and an arrow do; a move that is undone keeps the block chosen.
document.addEventListener('click', event => {
  if (event.target.closest?.('[data-undo-trial]')) {
    event.preventDefault();
    undoTrial();
    return;
  }
  const button = event.target.closest?.('[data-move]');
  const block = button && document.querySelector('.block.is-shown');
  if (!block) return;
  event.preventDefault();
  tryMove(block, button.dataset.move === '1' ? 'ArrowRight' : 'ArrowLeft');
});

// A first tap on a block says what it is, a second one opens it. Beside the blocks the nearest one is meant that a finger would reach.
const FINGER = 24;
let shownBefore;

document.addEventListener(
  'click',
  event => {
    if (event.detail === 0 || !event.target.closest?.('[data-day] svg') || event.target.closest('a:not(.block)')) return;
    if (!document.querySelector('[data-block-form]')) return;
    const block = event.target.closest('.block') ?? nearest(event);
    if (!block || block.dataset.block === shownBefore) return;
    event.preventDefault();
    event.stopPropagation();
    block.focus({ preventScroll: true });
  },
  true,
);

function nearest(event) {
  const far = block => {
    const box = block.getBoundingClientRect();
    if (box.width === 0) return Infinity;
    return Math.hypot(
      Math.max(box.left - event.clientX, 0, event.clientX - box.right),
      Math.max(box.top - event.clientY, 0, event.clientY - box.bottom),
    );
  };
  const [first] = blocks()
    .map(block => ({ block, far: far(block) }))
    .sort((a, b) => a.far - b.far);
  return first?.far <= FINGER ? first.block : null;
}

// A block that is dragged goes before the first block that stands behind the pointer, on the lathe where it is dropped.
function beginDrag(event) {
  shownBefore = document.querySelector('.block.is-shown')?.dataset.block;
  const block = event.target.closest('.block');
  if (!block || block.dataset.place === '' || event.button !== 0) return;
  const start = { x: event.clientX, y: event.clientY };
  let moved = false;
  block.classList.add('is-dragged');
  const move = at => {
    if (!moved && Math.hypot(at.clientX - start.x, at.clientY - start.y) < 10) return;
    moved = true;
    block.setAttribute('transform', `translate(${at.clientX - start.x} ${at.clientY - start.y})`);
  };
  const end = at => {
    removeEventListener('pointermove', move);
    removeEventListener('pointerup', end);
    removeEventListener('pointercancel', end);
    block.removeAttribute('transform');
    block.classList.remove('is-dragged');
    if (!moved || at.type === 'pointercancel') return;
    addEventListener('click', stop, { capture: true, once: true });
    setTimeout(() => removeEventListener('click', stop, { capture: true }), 50);
    drop(block, at);
  };
  const stop = click => {
    click.preventDefault();
    click.stopPropagation();
  };
  addEventListener('pointermove', move);
  addEventListener('pointerup', end);
  addEventListener('pointercancel', end);
}

function drop(block, at) {
  const lanes = [...document.querySelectorAll('[data-lathe-name]')];
  const lane = lanes.find(l => {
    const box = l.getBoundingClientRect();
    return at.clientY >= box.top && at.clientY < box.bottom;
  });
  if (!lane) return;
  const lathe = lane.dataset.latheName;
  const behind = blocks()
    .filter(b => b !== block && b.dataset.lathe === lathe && b.dataset.place !== '')
    .filter(b => middle(b).x < at.clientX);
  ask(block, lathe, behind.length);
}

document.addEventListener('focusin', event => {
  waits = event.target.matches('[data-day]');
});

document.addEventListener('dragstart', event => {
  if (event.target.closest?.('[data-day] .block')) event.preventDefault();
});
