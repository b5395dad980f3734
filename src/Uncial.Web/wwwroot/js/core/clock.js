// The clock on the bench.
setInterval(() => {
  const clock = document.querySelector('[data-clock]');
  if (clock) clock.textContent = new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}, 5000);
