// Corner and kind of a part pick its entry of the limit book. Which corners an entry is for is said by the server.
document.addEventListener('change', event => {
  const book = event.target.matches('[name=Corner],[name=Kind]') ? event.target.form.querySelector('[data-book]') : null;
  if (book) pickEntry(book);
});

function pickEntry(book) {
  const corner = book.form.querySelector('[name=Corner]:checked')?.value || 'Other';
  const part = book.form.querySelector('[name=Kind]:checked')?.value === 'drum' ? 'drum' : 'rotor';
  const fits = [...book.options].find(o => o.dataset.part === part && o.dataset.corners.split(' ').includes(corner));
  book.value = fits?.value ?? '0';
}

export function startReceive() {
  document.querySelectorAll('[data-book]').forEach(book => {
    if (book.value === '0' && !book.closest('form').querySelector('.is-wrong')) pickEntry(book);
  });
}

// A question at the counter sends the form of the new job elsewhere; an offered time is taken over into it.
document.addEventListener('click', event => {
  const ask = event.target.closest?.('[data-ask]');
  const form = ask && document.getElementById('new-job');
  if (!form) return;
  const go = document.createElement('button');
  go.hidden = true;
  go.setAttribute('formaction', '/receive?handler=Promise');
  if (ask.dataset.ask) {
    go.name = 'Take';
    go.value = ask.dataset.ask;
  }
  form.append(go);
  form.requestSubmit(go);
});
