// What every page does. No rule of the job lives in these modules: what a typed length means is asked of the server.
import { startBook } from './book.js';
import { freshen } from './core/copies.js';
import { startCutting } from './cutting.js';
import { startEcho } from './echo.js';
import { startMarks } from './marks.js';
import { startNews } from './news.js';
import { startOutbox } from './outbox.js';
import { startPass } from './pass.js';
import { startPlan } from './plan.js';
import { isBusy, refresh, show } from './core/sending.js';
import { restoreTyped } from './core/typed.js';
import './core/clock.js';
import './core/finding.js';
import './core/keypad.js';
import './core/keys.js';
import './looks.js';
import './core/printing.js';
function arrive() {
  const first = document.querySelector('.is-wrong input,.is-wrong textarea') ?? document.querySelector('[autofocus]:not([popover] *)');
  if (first) {
    first.focus({ preventScroll: true });
    if (first.select && first.closest('.is-wrong')) first.select();
  }
  restoreTyped();
  startBook();
  startEcho();
  startPass();
  startMarks();
  startCutting();
  startPlan({ show });
  startOutbox({ refresh, show });
  startNews({ isBusy, refresh });
}

document.addEventListener('arrived', arrive);
arrive();
if (document.querySelector('main[data-surface] :is([data-waits],[data-draft])')) freshen(refresh);
