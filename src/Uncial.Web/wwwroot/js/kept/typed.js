// What is being typed: which fields hold it, and how it outlives a change of unit or theme.
import { spelled } from '../core/units.js';

export const typed = el => el.matches('input:not([type=checkbox],[type=radio],[type=hidden]),textarea,select');
const keptKey = () => 'typed:' + location.pathname;

export function keepTyped() {
  const unit = document.querySelector('.unit-switch [aria-pressed=true]')?.value;
  const values = {};
  document.querySelectorAll('form[data-swap]').forEach(form =>
    [...form.elements]
      .filter(e => e.name && typed(e) && e.type !== 'password')
      .forEach(e => {
        values[e.name] = spelled(e, unit);
      }),
  );
  sessionStorage.setItem(keptKey(), JSON.stringify(values));
}

export function restoreTyped() {
  const kept = sessionStorage.getItem(keptKey());
  if (!kept) return;
  sessionStorage.removeItem(keptKey());
  for (const [name, value] of Object.entries(JSON.parse(kept))) {
    const field = document.querySelector(`form[data-swap] [name="${CSS.escape(name)}"]`);
    if (field && value) field.value = value;
  }
}
