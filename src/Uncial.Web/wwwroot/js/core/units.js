// A bare figure is of the unit that its field had when it was typed; spelled out it stays that whatever the page shows later.
export function spelled(field, shown) {
  const bare = field.hasAttribute('data-length') && !field.dataset.gauge && field.value.trim() && /^[\d.,\s+/-]+$/.test(field.value);
  return bare
    ? field.value
        .split('+')
        .map(t => t.trim() + (field.dataset.unit ?? shown))
        .join(' + ')
    : field.value;
}
