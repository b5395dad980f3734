// What every page does. No rule of the job lives in these modules: what a typed length means is asked of the server.
import { startBoard } from '/Pages/Board/Bench.cshtml.js';
import { startWall } from '/Pages/Board/Wall/Wall.cshtml.js';
import { startReceive } from '/Pages/Intake/Receive.cshtml.js';
import { startCut } from '/Pages/Part/Cut/Cut.cshtml.js';
import { startMount } from '/Pages/Part/Mount/Mount.cshtml.js';
import { startPlan } from '/Pages/Part/Plan/Plan.cshtml.js';
import { startDrill } from '/Pages/Practice/Drill.cshtml.js';
import { startBench } from '/Pages/Practice/Bench/Bench.cshtml.js';
import '/Pages/Workshop/Settings/Settings.cshtml.js';
import { startEcho } from './core/echo.js';
import { startLock } from './core/lock.js';
import { isBusy, refresh, show } from './core/sending.js';
import { freshen } from './kept/copies.js';
import { startDrafts } from './kept/drafts.js';
import { startOutbox } from './kept/outbox.js';
import { restoreTyped } from './kept/typed.js';
import { startAgain } from './live/again.js';
import { startNews } from './live/news.js';
import './core/clock.js';
import './core/finding.js';
import './core/keypad.js';
import './core/keys.js';
import './core/looks.js';
import './core/printing.js';
import './core/propose.js';
import './core/scan.js';
import './core/ticks.js';

function arrive() {
  // What was typed in a sheet and refused is shown in it.
  document.querySelector('[popover][data-open="True"]')?.showPopover();
  const first = document.querySelector('.is-wrong input,.is-wrong textarea') ?? document.querySelector('[autofocus]:not([popover] *)');
  if (first) {
    first.focus({ preventScroll: true });
    if (first.select && first.closest('.is-wrong')) first.select();
  }
  restoreTyped();
  startReceive();
  startBoard({ refresh });
  startWall();
  startEcho();
  startMount();
  startDrafts();
  startCut();
  startPlan({ show });
  startDrill();
  startBench();
  startOutbox({ refresh, show });
  startLock({ refresh });
  startNews({ isBusy, refresh });
  startAgain({ refresh });
}

document.addEventListener('arrived', arrive);
arrive();
if (document.querySelector('main[data-surface] :is([data-waits],[data-draft])')) freshen(refresh);
