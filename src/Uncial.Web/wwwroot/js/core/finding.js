// A list is narrowed while one types.
let finding;
document.addEventListener('input', event => {
  const input = event.target.closest('[data-find]');
  if (!input) return;
  clearTimeout(finding);
  finding = setTimeout(async () => {
    const url = `${input.form.getAttribute('action')}?${new URLSearchParams(new FormData(input.form))}`;
    try {
      const answer = await fetch(url, { headers: { 'X-Requested-With': 'fetch' } });
      const found = new DOMParser().parseFromString(await answer.text(), 'text/html');
      // Typed on meanwhile: the next answer is on its way.
      if (!answer.ok || url !== `${input.form.getAttribute('action')}?${new URLSearchParams(new FormData(input.form))}`) return;
      for (const id of input.dataset.find.split(' '))
        document.getElementById(id)?.replaceWith(document.adoptNode(found.getElementById(id)));
      history.replaceState(null, '', url);
    } catch {
      // Away: what is shown stays.
    }
  }, 120);
});
