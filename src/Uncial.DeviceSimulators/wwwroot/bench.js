const main = document.querySelector('#gauges');
const post = (id, what, query = {}) =>
  fetch(`/gauges/${id}/${what}?${new URLSearchParams(query)}`, { method: 'POST', headers: { 'X-Simulator': '1' } }).then(look);
const off = new Set();

function make(gauge) {
  const section = document.querySelector('template').content.firstElementChild.cloneNode(true);
  section.querySelector('h2').textContent = gauge.name;
  for (const times of [-100, -10, -1, 1, 10, 100]) {
    const button = document.createElement('button');
    const by = Number((times * gauge.step).toFixed(4));
    button.textContent = (by > 0 ? '+' : '−') + Math.abs(by);
    button.addEventListener('click', () => post(gauge.id, 'turn', { by }));
    section.querySelector('.spindle').append(button);
  }
  section.querySelector('.to').addEventListener('change', event => {
    if (event.target.value.trim()) post(gauge.id, 'turn', { to: event.target.value.replace(',', '.') });
  });
  section.addEventListener('click', event => {
    const now = section.now;
    const act = event.target.dataset.do;
    if (act === 'send') post(gauge.id, 'send');
    // The next place of a worn part: a few steps up or down.
    else if (act === 'worn')
      post(gauge.id, 'turn', { by: (Math.round((Math.random() - 0.5) * 8) * Math.max(gauge.step, 0.01)).toFixed(3) });
    else if (act === 'unit') post(gauge.id, 'turn', { unit: now.unit === 'mm' ? 'in' : 'mm' });
    else if (act === 'shake') post(gauge.id, 'turn', { stable: !now.stable });
    else if (act === 'silent') post(gauge.id, 'silent', { on: !now.silent });
    else if (act === 'battery') post(gauge.id, 'turn', { battery: now.battery > 20 ? 12 : 87 });
    else if (act === 'off') {
      const on = !off.has(gauge.id);
      on ? off.add(gauge.id) : off.delete(gauge.id);
      post(gauge.id, 'off', { on });
    }
  });
  main.append(section);
  return section;
}

const lathe = document.querySelector('#lathe');
const turn = query => fetch(`/lathe/turn?${new URLSearchParams(query)}`, { method: 'POST', headers: { 'X-Simulator': '1' } }).then(look);
for (const dial of lathe.querySelectorAll('[data-dial]'))
  for (const by of [-0.1, -0.01, 0.01, 0.1]) {
    const button = document.createElement('button');
    button.textContent = (by > 0 ? '+' : '−') + Math.abs(by);
    button.addEventListener('click', () => turn({ [dial.dataset.dial]: by }));
    dial.append(button);
  }
lathe.addEventListener('click', event => {
  const what = event.target.dataset.turn;
  if (what === 'rpm') turn({ rpm: lathe.now.turns ? 0 : 85 });
  else if (what === 'feed') turn({ feed: !lathe.now.feeds });
  else if (what === 'inwards') turn({ inwards: !lathe.now.inwards });
  else if (what === 'zero') turn({ zero: true });
  else if (what === 'silent')
    fetch(`/lathe/silent?on=${!lathe.now.silent}`, { method: 'POST', headers: { 'X-Simulator': '1' } }).then(look);
});

const sections = [];
async function look() {
  const gauges = await (await fetch('/gauges')).json();
  lathe.now = await (await fetch('/lathe')).json();
  lathe.querySelector('h2').textContent = lathe.now.name;
  lathe.querySelector('.link').textContent =
    `Port ${lathe.now.port}, ${lathe.now.hosts ? 'heard by Uncial' : 'nobody listens'}: ${lathe.now.line}`;
  lathe.querySelectorAll('.shows').forEach((out, i) => {
    out.innerHTML = `${lathe.now.dials[i]}<small>mm</small>`;
  });
  for (const [what, on] of [
    ['rpm', lathe.now.turns],
    ['feed', lathe.now.feeds],
    ['inwards', lathe.now.inwards],
    ['silent', lathe.now.silent],
  ])
    lathe.querySelector(`[data-turn=${what}]`).setAttribute('aria-pressed', on);
  gauges.forEach(gauge => {
    const section = (sections[gauge.id] ??= make(gauge));
    section.now = gauge;
    section.classList.toggle('moves', !gauge.stable);
    section.querySelector('.shows').innerHTML = `${gauge.shows}<small>${gauge.unit}</small>`;
    const link = off.has(gauge.id) ? 'switched off' : gauge.hosts ? 'heard by Uncial' : 'nobody listens';
    section.querySelector('.link').textContent = `Port ${gauge.port}, ${link}, battery ${gauge.battery} %${gauge.stable ? '' : ', moves'}`;
    section.querySelector('.answer').textContent = gauge.answer && `Last reading: ${gauge.answer}`;
    for (const [what, on] of [
      ['shake', !gauge.stable],
      ['silent', gauge.silent],
      ['off', off.has(gauge.id)],
    ])
      section.querySelector(`[data-do=${what}]`).setAttribute('aria-pressed', on);
  });
}
look();
setInterval(look, 500);
