// A field with proposals shows the rest of the first one that begins as typed, marked behind what was typed. The right arrow takes it;
// whoever goes on without it keeps what was typed, and nothing more.
import { say } from './words.js';

// The first proposal that begins with what was typed, and is longer; null where none does.
export function proposal(typed, all) {
  const begin = typed.toLowerCase();
  return (begin.trim() && all.find(o => o.length > typed.length && o.toLowerCase().startsWith(begin))) || null;
}

const shown = new WeakMap();
const tell = (field, text) => {
  const says = field.closest('.field,.setting')?.querySelector('.says,[role=status]');
  if (says && !field.closest('.is-wrong')) says.textContent = text;
};

// Takes the rest away again while it is still marked.
function drop(field) {
  const typed = shown.get(field);
  if (typed === undefined) return;
  shown.delete(field);
  const marked = field.selectionStart === typed.length && field.selectionEnd === field.value.length && field.selectionEnd > typed.length;
  if (marked) field.value = typed;
  tell(field, '');
}

if (globalThis.document) {
  document.addEventListener('input', event => {
    const field = event.target;
    if (!(field instanceof HTMLInputElement) || !field.list || event.isComposing) return;
    shown.delete(field);
    tell(field, '');
    const typed = field.value;
    if (!event.inputType?.startsWith('insert') || field.selectionStart !== typed.length) return;
    const whole = proposal(
      typed,
      [...field.list.options].map(o => o.value),
    );
    if (whole === null) return;
    field.value = typed + whole.slice(typed.length);
    field.setSelectionRange(typed.length, whole.length);
    shown.set(field, typed);
    tell(field, say('propose', whole));
  });
  document.addEventListener(
    'keydown',
    event => {
      const field = event.target;
      if (!(field instanceof HTMLInputElement) || !shown.has(field)) return;
      if (event.key === 'Enter' || event.key === 'Tab') drop(field);
      else if (event.key === 'ArrowRight' || event.key === 'End') {
        const all = [...field.list.options].map(o => o.value);
        // As it stands in the list, whatever case was typed.
        field.value = proposal(shown.get(field), all) ?? field.value;
        shown.delete(field);
        tell(field, '');
      }
    },
    true,
  );
  document.addEventListener('focusout', event => {
    if (event.target instanceof HTMLInputElement) drop(event.target);
  });
}
