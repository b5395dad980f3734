// Settings are found by their words, over all groups, and go back to what a new shop starts with. Kept is only what the form sends.
const hides = (element, hidden) => element.toggleAttribute('data-hidden', hidden);

function find(form, text) {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  form.toggleAttribute('data-finding', words.length > 0);
  let found = 0;
  for (const setting of form.querySelectorAll('.setting')) {
    const says = setting.querySelector('label').textContent.toLowerCase();
    const fits = words.every(word => says.includes(word));
    hides(setting, words.length > 0 && !fits);
    if (fits) found++;
  }
  const says = form.querySelector('[data-found]');
  says.textContent = words.length > 0 && found === 0 ? says.dataset.none : '';
}

document.addEventListener('input', event => {
  if (event.target.id === 'find-setting') find(event.target.form, event.target.value);
});

document.addEventListener('click', event => {
  const button = event.target.closest('[data-usual]');
  if (!button) return;
  const field = document.getElementById(button.dataset.of);
  if (field.type === 'checkbox') field.checked = button.dataset.usual === 'true';
  else field.value = button.dataset.usual;
  field.dispatchEvent(new Event('input', { bubbles: true }));
  field.focus();
});

// Enter goes to what was found; it keeps nothing.
document.addEventListener(
  'keydown',
  event => {
    if (event.key !== 'Enter' || event.target.id !== 'find-setting') return;
    event.preventDefault();
    event.stopImmediatePropagation();
    const first = [...event.target.form.querySelectorAll('.setting :is(input:not([type=hidden]),select)')].find(e => e.checkVisibility());
    first?.focus();
    first?.select?.();
  },
  true,
);
