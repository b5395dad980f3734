// Shows on the dials of a drawing what the lathe's read-out sends.
export function followLathe(now) {
  const word = document.querySelector('[data-live-lathe-word]');
  if (!word) return;
  word.textContent = now?.word ?? word.dataset.silent;
  word.closest('[data-live-lathe]').dataset.state = now?.state ?? 'lost';
  // Said once: writing the same again would have it read out again.
  const fault = document.querySelector('[data-live-fault]');
  if (fault) {
    const text = now?.fault ?? '';
    fault.hidden = !text;
    if (fault.lastElementChild.textContent !== text) fault.lastElementChild.textContent = text;
  }
  document.querySelectorAll('[data-live-dial]').forEach((mark, i) => {
    const dial =
      now?.state === 'connected'
        ? now.dials[
            mark.ownerSVGElement.querySelectorAll('[data-live-dial]').length === 1 && now.dials.length === 2
              ? Number(mark.dataset.liveDial)
              : i
          ]
        : null;
    mark.setAttribute('visibility', dial ? 'visible' : 'hidden');
    if (dial) mark.setAttribute('transform', `rotate(${dial.turn} ${mark.dataset.cx} ${mark.dataset.cy})`);
    const says = mark.ownerSVGElement.querySelector(`[data-live-says="${mark.dataset.liveDial}"]`);
    if (says) says.textContent = dial ? dial.says : '';
  });
}
