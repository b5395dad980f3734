// What a person at this screen could not see or touch: one line for each fault. arguments[0]: panes of a station may scroll here.
const mayScroll = arguments[0];
const faults = [];
const root = document.scrollingElement;
const [width, height] = [root.clientWidth, root.clientHeight];
const textOf = e => (e.textContent || e.value || '').trim().replace(/\s+/g, ' ').slice(0, 50);
const named = e => `${e.tagName.toLowerCase()}.${e.getAttribute('class') ?? ''} “${textOf(e)}”`;
const seen = e => e.checkVisibility({ visibilityProperty: true }) && e.getClientRects().length > 0 && !e.closest('.is-sr-only,.skip');
const staysInSight = e => e && (['sticky', 'fixed'].includes(getComputedStyle(e).position) || staysInSight(e.parentElement));
const isStation = Boolean(document.querySelector('.stations')) || location.pathname.startsWith('/receive');
const over = document.querySelector(':popover-open');

if (root.scrollWidth > width) faults.push(`the page is wider than the screen: ${root.scrollWidth} of ${width}`);
if (!mayScroll && root.scrollHeight > height) faults.push(`the page is higher than the screen: ${root.scrollHeight} of ${height}`);

for (const e of document.querySelectorAll('body *:not(svg *)')) {
  if (!seen(e)) continue;
  const style = getComputedStyle(e);
  const [across, down] = [e.scrollWidth - e.clientWidth, e.scrollHeight - e.clientHeight];
  const scrolls = s => s === 'auto' || s === 'scroll';
  const cuts = s => s === 'hidden' || s === 'clip';
  // On a phone what is wide is moved sideways within its sheet; the hours of a day are where they do not fit.
  if (scrolls(style.overflowX) && across > 1 && width >= 600 && !e.matches('[data-day]'))
    faults.push(`scrolls sideways by ${across}: ${named(e)}`);
  if (!mayScroll && isStation && !over && scrolls(style.overflowY) && down > 1 && !e.matches('textarea'))
    faults.push(`scrolls by ${down}: ${named(e)}`);
  // What stands in the rail beside the links goes away as a whole where there is no room; a text area is typed into.
  // Of the stock rule a narrow screen shows the head alone.
  if (e.matches('.page-name,.page-name *,textarea,[type=file],.stock-rule')) continue;
  if (cuts(style.overflowX) && across > 1 && e.clientWidth > 2) faults.push(`cut off by ${across} sideways: ${named(e)}`);
  if (cuts(style.overflowY) && down > 2 && e.clientHeight > 2) faults.push(`cut off by ${down} below: ${named(e)}`);
  if (e.matches('input:not([type=checkbox],[type=radio])') && e.value && across > 1)
    faults.push(`its text is cut off: ${e.name} ${e.value}`);
}

for (const text of document.querySelectorAll('svg text')) {
  // On a narrow screen the rule shows its head; on a phone a drawing is looked at closely.
  if ((text.closest('.stock-rule') && width <= 1240) || width < 600) continue;
  if (!seen(text) || text.closest('[visibility=hidden]')) continue;
  // A gauge that an eye is close to is seen in part.
  if (text.closest('.gauge:is(.is-close,.is-closest)')) continue;
  const drawing = text.ownerSVGElement;
  const [at, all] = [text.getBoundingClientRect(), drawing.getBoundingClientRect()];
  if (!at.width) continue;
  const out = Math.max(all.left - at.left, at.right - all.right, all.top - at.top, at.bottom - all.bottom);
  if (getComputedStyle(drawing).overflow !== 'visible' && out > 2)
    faults.push(`reaches ${out.toFixed(0)} out of its drawing: ${named(text)}`);
  const drawn = text.getScreenCTM();
  const size = parseFloat(getComputedStyle(text).fontSize) * Math.hypot(drawn.a, drawn.b);
  if (size < (mayScroll ? 10.9 : 11.9)) faults.push(`drawn ${size.toFixed(1)} high: ${named(text)}`);
}

// Links within a sentence are as high as its lines.
const targets = [
  'a[href]:not(p a,li a,svg a),button,select,textarea,summary,input:not([type=hidden],[type=checkbox],[type=radio])',
  'label:has(> input[type=checkbox],> input[type=radio])',
].join();
for (const e of document.querySelectorAll(targets)) {
  if (!seen(e) || e.disabled) continue;
  const box = e.getBoundingClientRect();
  const more = getComputedStyle(e, '::after');
  const grown = more.content !== 'none' && more.position === 'absolute';
  const [w, h] = grown
    ? [Math.max(box.width, parseFloat(more.width)), Math.max(box.height, parseFloat(more.height))]
    : [box.width, box.height];
  if (w < 47.5 || h < 47.5) faults.push(`a target of ${w.toFixed(0)} by ${h.toFixed(0)}: ${named(e)}`);
  // In the middle of it one meets it, and nothing that lies over it but a sheet that somebody opened.
  if (over && !over.contains(e)) continue;
  const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
  if (x < 0 || y < 0 || x >= width || y >= height) continue;
  const met = document.elementFromPoint(x, y);
  if (mayScroll && staysInSight(met)) continue;
  if (met && !e.contains(met) && !met.contains(e) && !met.closest('label')?.contains(e))
    faults.push(`${named(e)} lies under ${named(met)}`);
}
// A printed key stands for one thing.
const keys = [...document.querySelectorAll('[data-key]:has(.cap)')].filter(seen).map(e => e.dataset.key);
for (const key of new Set(keys.filter((k, i) => keys.indexOf(k) !== i))) faults.push(`the key ${key} is printed twice`);
return faults;
