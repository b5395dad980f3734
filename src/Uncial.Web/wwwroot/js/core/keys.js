// Keys stand for the mouse: Enter walks through the fields and presses the main button, letters press what they are printed on.
import { typed } from '../kept/typed.js';
import { sayBelow } from './echo.js';
import { isCode, scanned } from './scan.js';
import { say } from './words.js';
const main = () => document.querySelector('.slate .button.go:not([disabled],[data-only-key])');

// The button or link that a key is printed on. What stands beside the work goes before the letter of a station.
function printed(letter) {
  const key = `[data-key="${CSS.escape(letter === ' ' ? 'Space' : letter)}"]:not([disabled])`;
  return document.querySelector(`.slate ${key}`) ?? document.querySelector(key);
}

// A letter that is printed on a button, and that the figure in a field cannot hold or begin with, acts at once though the field has the
// focus.
// What leaves the page waits until what is typed was kept or wiped.
function actsAtOnce(event, at) {
  const letter = event.key;
  if (event.repeat || !/^[a-z?]$/.test(letter) || !at.matches('[data-letters]')) return false;
  if ((at.value ? at.dataset.letters : (at.dataset.begins ?? '')).includes(letter)) return false;
  const named = printed(letter);
  if (!named?.querySelector('.cap')) return false;
  event.preventDefault();
  if (at.value && !named.matches('summary,button[type=button]')) {
    sayBelow(at, say('keepFirst'));
    return true;
  }
  named.click();
  return true;
}

document.addEventListener('keydown', event => {
  const undo = document.querySelector('[data-undo]');
  if (
    event.key === 'z' &&
    (event.ctrlKey || event.metaKey) &&
    undo &&
    document.activeElement?.matches('[data-entry]') &&
    !document.activeElement.value
  ) {
    event.preventDefault();
    undo.click();
    return;
  }
  if (event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return;
  if (event.key === 'F9' && !event.repeat) {
    event.preventDefault();
    document.querySelector('[data-lock]')?.click();
    return;
  }
  // On the lock a letter picks who goes on; a PIN is digits.
  const lock = document.querySelector('dialog.lock');
  if (lock) {
    const tile = /^[a-z]$/i.test(event.key) && lock.querySelector(`[data-key="${event.key.toLowerCase()}"]`);
    if (tile || event.key === 'Escape') event.preventDefault();
    if (tile && !event.repeat) tile.click();
    return;
  }
  const over = document.querySelector(':popover-open');
  if (over) {
    // A sheet lies over the page: keys move in it, press what is printed in it or close it; nothing beneath is pressed.
    const inside = over.contains(document.activeElement) && typed(document.activeElement);
    const within = !inside && over.querySelector(`[data-key="${CSS.escape(event.key)}"]:not([disabled])`);
    if (event.key === 'Escape' || (event.key === 'w' && !inside)) {
      event.preventDefault();
      over.hidePopover();
    } else if (within) {
      event.preventDefault();
      within.click();
    }
    return;
  }
  const at = document.activeElement;
  const inField = at && typed(at);
  if (event.key === 'Enter' && inField && isCode(at)) {
    event.preventDefault();
    scanned(at.value.trim(), () => at.form.requestSubmit());
    return;
  }
  if (event.key === 'Enter' && inField && at.matches('[data-next]')) {
    // Enter walks on through the fields; at the last it is the main action.
    const fields = [...at.form.elements].filter(e => e.matches('[data-next]') && e.checkVisibility());
    const next = fields[fields.indexOf(at) + 1];
    if (next) {
      event.preventDefault();
      next.focus();
      next.select?.();
      return;
    }
  }
  if (event.key === 'Enter' && !inField && !at?.closest('a,button,summary,[role=button],input')) {
    main()?.click();
    event.preventDefault();
    return;
  }
  if (inField && actsAtOnce(event, at)) return;
  if (inField) {
    // Enter in a remark goes back to the figure it is about.
    if (event.key === 'Enter' && at.closest('.remark')) {
      event.preventDefault();
      document.querySelector('[data-entry]')?.focus();
      return;
    }
    if (event.key === 'Escape') {
      at.blur();
      event.preventDefault();
    }
    return;
  }
  // A key that is held down presses once.
  const named = !event.repeat && printed(event.key);
  if (named && !(event.key === ' ' && at?.matches('button,[role=button],input'))) {
    event.preventDefault();
    named.click();
    return;
  }
  if (event.key === 'Escape' && history.length > 1) {
    history.back();
    return;
  }
  const entry = document.querySelector('[data-entry]:not([disabled])');
  if (entry && /^[\d.,/]$/.test(event.key)) entry.focus({ preventScroll: true }); // the digit itself then lands in the entry
});

// A sheet that is opened has the focus, and gives it back before it goes: the next key is that of the page again.
let before = null;
document.addEventListener(
  'beforetoggle',
  event => {
    const sheet = event.target;
    if (!sheet.matches('[popover]')) return;
    if (event.newState === 'open') before = document.activeElement;
    else if (sheet.contains(document.activeElement)) before?.focus({ preventScroll: true });
  },
  true,
);
document.addEventListener(
  'toggle',
  event => {
    const sheet = event.target;
    if (sheet.matches('[popover]') && event.newState === 'open' && !sheet.contains(document.activeElement)) sheet.focus();
  },
  true,
);

document.addEventListener(
  'toggle',
  event => {
    if (event.target.matches('.anyway') && event.target.open) event.target.querySelector('input').focus();
  },
  true,
);

document.addEventListener(
  'toggle',
  event => {
    if (event.target.matches('.remark') && event.target.open) event.target.querySelector('input').focus();
  },
  true,
);
