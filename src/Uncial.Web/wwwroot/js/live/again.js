// A page that follows what happens at a lathe asks for itself again every few seconds: another part may be on it by now.
let timer;

export function startAgain({ refresh }) {
  clearInterval(timer);
  const every = Number(document.querySelector('main[data-again]')?.dataset.again);
  if (every) timer = setInterval(refresh, every * 1000);
}
