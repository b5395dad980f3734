// The keypad beside an entry, for fingers.
document.addEventListener('click', event => {
  const key = event.target.closest('[data-keypad] .key');
  if (!key) return;
  const entry = key.closest('form').querySelector('[data-entry]');
  if (entry.disabled) return;
  if (key.dataset.do === 'wipe') entry.value = '';
  else if (key.dataset.do === 'back') entry.value = entry.value.slice(0, -1);
  else entry.value += key.dataset.put ?? key.textContent;
  entry.dispatchEvent(new Event('input', { bubbles: true }));
  entry.focus({ preventScroll: true });
});
