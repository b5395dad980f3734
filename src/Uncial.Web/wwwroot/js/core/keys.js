// Keys stand for the mouse: Enter walks through the fields and presses the main button, letters press what they are printed on.
import { typed } from '../kept/typed.js';
const main = () => document.querySelector('.slate .button.go:not([disabled],[data-only-key])');

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
  const over = document.querySelector(':popover-open');
  if (over) {
    // A sheet lies over the page: keys move in it or close it, nothing beneath is pressed.
    if (event.key === 'Escape' || event.key === 'w') {
      event.preventDefault();
      over.hidePopover();
    }
    return;
  }
  const at = document.activeElement;
  const inField = at && typed(at);
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
  // What is printed on a button beside the work goes before the letter of a station.
  const key = `[data-key="${CSS.escape(event.key === ' ' ? 'Space' : event.key)}"]:not([disabled])`;
  const named = !event.repeat && (document.querySelector(`.slate ${key}`) ?? document.querySelector(key));
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
