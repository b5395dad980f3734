// What is ticked, tapped and typed in a form with data-draft is kept while it is made, in this browser and on the server, and put back when
// the page comes again. Modules that change a hidden field say so by the event "tapped"; "restored" says that fields were put back.
import { newest } from './newest.js';

const main = () => document.querySelector('main[data-draft-of]');
const form = () => document.querySelector('form[data-draft]');
const key = () => 'draft:' + main().dataset.surface;

// Of the hidden fields only taps and clocks are set by a person. A PIN is never kept, nor what each person says for itself.
const fields = f =>
  [...f.elements].filter(
    e =>
      e.name &&
      e.tagName !== 'BUTTON' &&
      e.type !== 'password' &&
      e.dataset.own === undefined &&
      (e.type !== 'hidden' || /^(Dark|Began_)/.test(e.name)),
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
  document.dispatchEvent(new Event('restored'));
  const open = [...f.elements].find(e => e.type === 'checkbox' && !e.checked);
  if (document.activeElement?.type === 'checkbox' && document.activeElement.checked)
    (open ?? f.querySelector('.button.go'))?.focus({ preventScroll: true });
}

document.addEventListener('input', event => {
  if (event.target.form?.matches('[data-draft]')) keep();
});
document.addEventListener('tapped', () => keep());

export function startDrafts() {
  if (main()) restore();
}
