// After a pass: tapping a twelfth of the clock turns it dark or clean. Counting and judging is the server's.
function toggle(sector) {
  const dark = sector.getAttribute('aria-pressed') !== 'true';
  sector.setAttribute('aria-pressed', dark);
  const face = sector.closest('[data-face]');
  const field = document.querySelector(`input[name="${face.dataset.face}"]`);
  let bits = 0;
  const sectors = [...face.querySelectorAll('.sector')];
  sectors.forEach((s, i) => {
    if (s.getAttribute('aria-pressed') === 'true') bits |= 1 << i;
  });
  field.value = bits;
  document.dispatchEvent(new Event('tapped'));
  const count = sectors.filter(s => s.getAttribute('aria-pressed') === 'true').length;
  face.querySelector('[data-count]').textContent = count;
}

// Shows the sectors as their fields say.
export function paintSectors() {
  document.querySelectorAll('[data-face]').forEach(face => {
    const bits = Number(document.querySelector(`input[name="${face.dataset.face}"]`)?.value ?? 0);
    const sectors = [...face.querySelectorAll('.sector')];
    sectors.forEach((s, i) => s.setAttribute('aria-pressed', Boolean(bits & (1 << i))));
    face.querySelector('[data-count]').textContent = sectors.filter((_, i) => bits & (1 << i)).length;
  });
}

export function startPass() {
  document.querySelectorAll('.sector:not([data-taps])').forEach(sector => {
    sector.dataset.taps = '';
    sector.addEventListener('click', () => toggle(sector));
    sector.addEventListener('keydown', event => {
      const all = [...sector.closest('[data-face]').querySelectorAll('.sector')];
      const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
      if (step) all[(all.indexOf(sector) + step + 12) % 12].focus();
      else if (event.key === ' ' || event.key === 'Enter') toggle(sector);
      else return;
      event.preventDefault();
      event.stopPropagation();
    });
  });
}
