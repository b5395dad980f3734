// A list of ticks under data-walk: Enter ticks one and goes on to the next that is open, then to the main action. The event "ticked"
// says so.
document.addEventListener(
  'keydown',
  event => {
    const tick = event.target.closest?.('[data-walk] input[type=checkbox]');
    if (!tick || event.key !== 'Enter' || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    tick.checked = true;
    const all = [...tick.form.elements].filter(e => e.type === 'checkbox');
    const open = all.slice(all.indexOf(tick) + 1).find(e => !e.checked) ?? all.find(e => !e.checked);
    const main = [...document.querySelectorAll('.button.go')].find(e => e.form === tick.form);
    (open ?? main).focus();
    tick.dispatchEvent(new Event('ticked', { bubbles: true }));
  },
  true,
);
