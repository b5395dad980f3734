// A screen on the wall turns its pages by itself.
const EVERY = 12_000;
let timer;
let at = 0;

export function startWall() {
  clearInterval(timer);
  const pages = [...document.querySelectorAll('[data-wall-page]')];
  if (pages.length === 0) return;
  const show = () => pages.forEach((page, i) => (page.hidden = i !== at % pages.length));
  show();
  timer = setInterval(() => {
    at = (at + 1) % pages.length;
    show();
  }, EVERY);
}
