// What a pass sounds like, made from what the server says was heard. Off until somebody turns it on, and never needed.
const KEPT = 'bench sound';
let audio = null;

const isOn = () => localStorage.getItem(KEPT) === 'on';

export function startSound() {
  const key = document.querySelector('[data-sound]');
  key?.setAttribute('aria-pressed', String(isOn()));
}

document.addEventListener('click', event => {
  const key = event.target.closest?.('[data-sound]');
  if (!key) return;
  localStorage.setItem(KEPT, isOn() ? 'off' : 'on');
  key.setAttribute('aria-pressed', String(isOn()));
  if (isOn()) play('tick', 0);
});

export function playHeard(bench, act) {
  startSound();
  if (!isOn()) return;
  if (act === 'scratch' || act.startsWith('zero:')) play('tick', 0);
  else if (act === 'run' || act.startsWith('stop:')) {
    const heard = bench.querySelector('[data-heard]')?.dataset;
    if (heard?.heard) play(heard.heard, Number(heard.heardWaves));
  }
}

// A cut is a hiss; a part that rings is a tone of its waves; a lathe that rumbles a low one; a touch ticks once a turn.
function play(what, waves) {
  audio ??= new AudioContext();
  const now = audio.currentTime;
  if (what === 'tick') {
    for (let turn = 0; turn < 4; turn++) tone(now + turn * 0.7, 0.03, 1800, 0.25);
    return;
  }
  hiss(now, 1.6, what === 'Rubbing' ? 0.03 : what === 'Torn' ? 0.16 : 0.08);
  if (what === 'Ringing') tone(now, 1.6, 420 + Math.min(waves, 60) * 14, 0.2);
  if (what === 'Rumble') tone(now, 1.6, 58, 0.4);
}

function tone(at, seconds, hertz, loud) {
  const [source, volume] = [audio.createOscillator(), audio.createGain()];
  source.frequency.value = hertz;
  volume.gain.setValueAtTime(loud, at);
  volume.gain.exponentialRampToValueAtTime(0.001, at + seconds);
  source.connect(volume).connect(audio.destination);
  source.start(at);
  source.stop(at + seconds);
}

function hiss(at, seconds, loud) {
  const buffer = audio.createBuffer(1, audio.sampleRate * seconds, audio.sampleRate);
  const samples = buffer.getChannelData(0);
  for (let i = 0; i < samples.length; i++) samples[i] = Math.random() * 2 - 1;
  const [source, volume] = [audio.createBufferSource(), audio.createGain()];
  source.buffer = buffer;
  volume.gain.value = loud;
  source.connect(volume).connect(audio.destination);
  source.start(at);
}
