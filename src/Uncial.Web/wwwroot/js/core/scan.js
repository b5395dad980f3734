// A scanner types what it reads, faster than anybody can, and ends it with Enter. Outside a field, on any page, that opens the part or the
// certificate that the code is of.
import { typed } from '../kept/typed.js';

const fast = 40; // milliseconds between two keys
const shortest = 4;

// Keeps what is typed fast: key(name, at) answers what becomes of a key. Times are in milliseconds.
export function reader() {
  let code = '';
  let last = -Infinity;
  return (name, at) => {
    const goesOn = code !== '' && at - last < fast;
    if (name === 'Enter') {
      const whole = goesOn && code.length >= shortest ? code : null;
      code = '';
      return { whole, swallow: whole !== null };
    }
    if (['Shift', 'CapsLock', 'AltGraph'].includes(name)) return { whole: null, swallow: false }; // they belong to the next key
    // No code has a space or any other key in it: whoever ticks and walks on fast is no scanner.
    if ([...name].length !== 1 || name === ' ') {
      code = '';
      return { whole: null, swallow: false };
    }
    code = goesOn ? code + name : name;
    last = at;
    // Two keys may fall together under one hand; from the third on it is a scanner, and its keys press nothing.
    return { whole: null, swallow: code.length > 2 };
  };
}

// In the field of a figure: no size begins with a letter and is so long.
export const isCode = field => field.matches('[data-entry][data-letters]') && /^[a-z][\w-]{3,}$/i.test(field.value.trim());

// Opens what a code is of; does something else where it is of nothing here.
export async function scanned(code, otherwise) {
  try {
    const found = await fetch(`/scan?${new URLSearchParams({ code })}`);
    if (found.ok) location.assign((await found.json()).href);
    else otherwise();
  } catch {
    otherwise();
  }
}

if (globalThis.document) {
  const read = reader();
  document.addEventListener(
    'keydown',
    event => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (document.activeElement && typed(document.activeElement)) return;
      const { whole, swallow } = read(event.key, event.timeStamp);
      if (!swallow) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (whole) scanned(whole, () => location.assign(`/logbook?${new URLSearchParams({ find: whole })}`));
    },
    true,
  );
}
