// Shows under a typed length how it is understood, as the server reads it.
import { say } from './words.js';
const waiting = new WeakMap();

// Where it is said what a field holds.
const below = input => input.closest('.entry,.field').querySelector('.expands,.says');

// Says something else under a field. What the server is still to answer about the text in it is then left unsaid.
export function sayBelow(input, text) {
  waiting.set(input, (waiting.get(input) ?? 0) + 1);
  below(input).textContent = text;
}

export async function echo(input) {
  const says = below(input);
  const text = input.value.trim();
  const box = input.closest('.entry,.field');
  box.classList.toggle('is-long', text.length > 9);
  // “none” and “not looked” are answers where a depth is looked for.
  if (!text || (input.matches('[data-looks-in]') && /^[a-z]/i.test(text))) {
    sayBelow(input, '');
    box.classList.remove('is-wrong');
    return;
  }
  const turn = (waiting.get(input) ?? 0) + 1;
  waiting.set(input, turn);
  try {
    const answer = await ask(input, text);
    const body = await answer.json();
    if (waiting.get(input) !== turn) return;
    box.classList.remove('is-wrong');
    says.textContent = body.echo ?? (Number(text.replace(',', '.')) === 0 ? say('none') : (body.wrong ?? ''));
  } catch {
    if (waiting.get(input) === turn) says.textContent = say('serverAway');
  }
}

// A dial on a bar is read together with where the bar is set.
// In practice the bench's own gauges and settings answer.
function ask(input, text) {
  const practice = document.body.dataset.practice ? { practice: document.body.dataset.practice } : {};
  const start = input.form?.querySelector('.bar input:checked')?.value;
  if (input.dataset.day !== undefined) return fetch(`/days/echo?${new URLSearchParams({ ...practice, text, lean: input.dataset.day })}`);
  if (input.dataset.time !== undefined) return fetch(`/times/echo?${new URLSearchParams({ ...practice, text })}`);
  if (input.dataset.marking !== undefined) {
    const part = input.form.querySelector('[name=Kind]:checked,[name=Kind][type=hidden]')?.value ?? '';
    return fetch(`/markings/echo?${new URLSearchParams({ ...practice, text, part })}`);
  }
  if (input.dataset.gauge && start)
    return fetch(`/gauges/${input.dataset.gauge}/echo?${new URLSearchParams({ ...practice, start, text })}`);
  return fetch(`/lengths/echo?${new URLSearchParams({ ...practice, text, unit: unitOf(input) })}`);
}

// A gauge and a group of limits have a unit of their own; everything else is in the reader's.
function unitOf(input) {
  if (input.dataset.unit) return input.dataset.unit;
  const own = input.form?.querySelector('[data-unit-of-lengths]:checked');
  return own?.value ?? document.querySelector('.unit-switch [aria-pressed=true]')?.value ?? 'mm';
}

export function startEcho() {
  document
    .querySelectorAll(
      '[data-length]:not([data-echoes]),[data-marking]:not([data-echoes]),[data-time]:not([data-echoes]),[data-day]:not([data-echoes])',
    )
    .forEach(input => {
      input.dataset.echoes = '';
      input.addEventListener('input', () => echo(input));
      if (input.value && !input.closest('.is-wrong')) echo(input);
    });
  document.querySelectorAll('[name=Kind][type=radio]:not([data-echoes])').forEach(kind => {
    kind.dataset.echoes = '';
    kind.addEventListener('change', () => kind.form.querySelectorAll('[data-marking]').forEach(echo));
  });
  document.querySelectorAll('.bar input:not([data-echoes])').forEach(start => {
    start.dataset.echoes = '';
    start.addEventListener('change', () => start.form.querySelectorAll('[data-length]').forEach(echo));
  });
  document.querySelectorAll('[data-unit-of-lengths]:not([data-echoes])').forEach(radio => {
    radio.dataset.echoes = '';
    radio.addEventListener('change', () => radio.form.querySelectorAll('[data-length]').forEach(echo));
  });
}
