// Looking closer at a gauge, and rubbing chalk over a casting. The drawing stays what the server sent: only the part of it that is seen
// changes.
const steps = [1, 2.6, 6];

function startCloser(svg) {
  const whole = svg.getAttribute('viewBox').split(' ').map(Number);
  const [nearX, nearY] = svg.dataset.closer.split(' ').map(Number);
  let step = 0;
  let middle = [nearX, nearY];

  function show() {
    const [w, h] = [whole[2] / steps[step], whole[3] / steps[step]];
    const clamp = (at, size, all) => Math.min(Math.max(at - size / 2, 0), all - size);
    const [x, y] = [clamp(middle[0], w, whole[2]), clamp(middle[1], h, whole[3])];
    middle = [x + w / 2, y + h / 2];
    svg.setAttribute('viewBox', `${x} ${y} ${w} ${h}`);
    svg.classList.toggle('is-close', step === 1);
    svg.classList.toggle('is-closest', step === 2);
  }

  function closer(to) {
    step = to;
    svg.closerStep = to;
    if (step === 0) middle = [nearX, nearY];
    show();
  }

  function move(dx, dy) {
    middle = [middle[0] + dx, middle[1] + dy];
    show();
  }

  document.querySelector('[data-closer-key]')?.addEventListener('click', () => closer((step + 1) % steps.length));
  svg.addEventListener('dblclick', () => closer((step + 1) % steps.length));
  svg.addEventListener('wheel', event => {
    event.preventDefault();
    closer(Math.min(Math.max(step + (event.deltaY < 0 ? 1 : -1), 0), steps.length - 1));
  });
  let from = null;
  svg.addEventListener('pointerdown', event => {
    from = [event.clientX, event.clientY];
    svg.setPointerCapture(event.pointerId);
  });
  svg.addEventListener('pointermove', event => {
    if (!from || step === 0) return;
    const unit = whole[2] / steps[step] / svg.clientWidth;
    move((from[0] - event.clientX) * unit, (from[1] - event.clientY) * unit);
    from = [event.clientX, event.clientY];
  });
  svg.addEventListener('pointerup', () => (from = null));
  document.addEventListener('keydown', event => {
    if (!svg.isConnected || step === 0 || !event.key.startsWith('Arrow') || event.ctrlKey || event.altKey || event.metaKey) return;
    // In a figure that is being typed the arrows move its caret.
    if (event.target.matches('input') && event.target.value) return;
    event.preventDefault();
    const by = whole[2] / steps[step] / 8;
    move(...{ ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key]);
  });
  // One that takes another's place is looked at as closely.
  if (svg.closerStep) closer(svg.closerStep);
}

export function startDrill() {
  document.querySelectorAll('svg[data-closer]:not([data-started])').forEach(svg => {
    svg.dataset.started = '';
    startCloser(svg);
  });
  document.querySelectorAll('[data-chalk]:not([data-started])').forEach(button => {
    button.dataset.started = '';
    button.addEventListener('click', () => {
      const chalked = document.querySelector('[data-casting]').classList.toggle('is-chalked');
      button.setAttribute('aria-pressed', chalked);
    });
  });
}
