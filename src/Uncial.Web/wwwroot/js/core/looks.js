// A depth that is looked for: one key says that there is none, one that nobody looked.
function say(input, word) {
  input.value = word;
  input.dispatchEvent(new Event('input', { bubbles: true }));
}

document.addEventListener('click', event => {
  const key = event.target.closest('[data-looks]');
  if (!key) return;
  const input = key.closest('.looks').querySelector('[data-looks-in]');
  say(input, key.dataset.looks);
  // The next field that says nothing yet has its turn.
  const fields = [...input.form.querySelectorAll('[data-looks-in]')].filter(e => e.checkVisibility());
  (fields.slice(fields.indexOf(input) + 1).find(e => !e.value) ?? input).focus();
});

document.addEventListener('keydown', event => {
  const word = { n: 'none', x: 'not looked' }[event.key];
  if (!word || event.ctrlKey || event.metaKey || event.altKey || !event.target.matches?.('[data-looks-in]')) return;
  event.preventDefault();
  say(event.target, word);
});
