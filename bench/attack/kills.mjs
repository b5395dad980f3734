// Writes readings at five parts while application, backends and postmaster are killed in turn, and counts what was acknowledged and is not
// there, or is there twice. Run by bench/attack/run; on this machine's loopback only, bounded by the number of kills.
import { spawn, execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, chmodSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const kills = Number(process.argv[2] ?? 200);
const port = Number(process.argv[3] ?? 5990);
const data = mkdtempSync(join(tmpdir(), 'uncial-kills-'));
chmodSync(data, 0o711);
const base = `http://127.0.0.1:${port}`;
const sleep = ms => new Promise(done => setTimeout(done, ms));
let chance = 20261128;
const random = n => (chance = (chance * 1103515245 + 12345) % 2147483648) % n;

let start;
function open() {
    start = spawn('bash', ['./start', '--port', `${port}`, '--data', data], { stdio: ['ignore', 'pipe', 'inherit'] });
    start.gone = new Promise(done => start.on('exit', done));
    start.said = '';
    start.stdout.on('data', text => {
        start.said += text;
    });
}

async function healthy() {
    for (let i = 0; i < 1200; i++) {
        try {
            if ((await fetch(`${base}/health`, { signal: AbortSignal.timeout(3000) })).ok) return;
        } catch {
            /* not yet */
        }
        await sleep(50);
    }
    throw new Error(`it does not come back: ${start.said}`);
}

const sql = text =>
    execFileSync(
        'psql',
        ['-h', '127.0.0.1', '-p', readFileSync(join(data, 'db-port'), 'utf8').trim(), '-U', 'uncial', '-qAtX', 'uncial', '-c', text],
        {
            env: { ...process.env, PGPASSWORD: readFileSync(join(data, 'db-password'), 'utf8').trim() },
            encoding: 'utf8',
            maxBuffer: 1 << 28,
        },
    ).trim();

// A person at a screen: cookies and the form's token.
async function signIn() {
    const jar = new Map();
    const keep = answer =>
        answer.headers.getSetCookie().forEach(c => {
            const [name, ...value] = c.split(';')[0].split('=');
            jar.set(name, value.join('='));
        });
    const cookies = () => [...jar].map(([name, value]) => `${name}=${value}`).join('; ');
    const token = async path => {
        const answer = await fetch(base + path, { headers: { cookie: cookies() }, signal: AbortSignal.timeout(15000) });
        keep(answer);
        return /__RequestVerificationToken" type="hidden" value="([^"]+)/.exec(await answer.text())?.[1];
    };
    const post = async (path, fields) => {
        const answer = await fetch(base + path, {
            method: 'POST',
            redirect: 'manual',
            headers: { cookie: cookies() },
            body: new URLSearchParams(fields),
            signal: AbortSignal.timeout(5000),
        });
        keep(answer);
        return answer.status;
    };
    if ((await post('/SignIn?handler=Pin', { Who: 'tom', Pin: '1304', __RequestVerificationToken: await token('/SignIn') })) !== 302)
        throw new Error('nobody is signed in');
    const form = await token('/check');
    return { post: (path, fields) => post(path, { ...fields, __RequestVerificationToken: form }) };
}

const acknowledged = new Set();
let tries = 0;
let running = true;
async function write(person, tag, entry) {
    while (running) {
        const key = randomUUID();
        tries++;
        // As a page does it: the same reading is sent again under its name until it is answered.
        for (let attempt = 0; attempt < 400 && running; attempt++) {
            try {
                const status = await person.post(`/measure/${tag}?handler=Keep`, {
                    at: '0',
                    depth: '',
                    Key: key,
                    Seen: '9000000000000000000',
                    Cuts: '0',
                    Entry: entry,
                    Insisted: entry,
                    Turn: '0',
                });
                if (status === 302) {
                    acknowledged.add(key);
                    break;
                }
                if (status < 500 && status !== 409) {
                    console.log(`refused with ${status} at ${tag}`);
                    break;
                }
            } catch {
                /* away */
            }
            await sleep(40);
        }
    }
}

open();
await healthy();
const person = await signIn();
const writers = [
    ['TQB5P', '27.51'],
    ['TQA5S', '203.55'],
    ['TQB6Q', '280.60'],
    ['TQB7R', '280.70'],
    ['TQC2T', '9.024'],
].map(([tag, entry]) => write(person, tag, entry));
const done = { application: 0, backends: 0, postmaster: 0 };
const began = Date.now();
let slowest = 0;
for (let i = 0; i < kills; i++) {
    await sleep(300 + random(900));
    const what = ['backends', 'postmaster', 'application'][i % 3];
    const from = Date.now();
    if (what === 'application') {
        try {
            execFileSync('pkill', ['-KILL', '-f', `Uncial.Web.dll --port-of-start=${port}`]);
        } catch {
            /* gone already */
        }
        await start.gone;
        open();
    } else if (what === 'backends') {
        const pids = sql("select pid from pg_stat_activity where usename = 'uncial_app'").split('\n').filter(Boolean);
        if (pids.length > 0)
            try {
                execFileSync('kill', ['-KILL', pids[random(pids.length)]]);
            } catch {
                /* gone already */
            }
        await sleep(200);
    } else {
        const cluster = execFileSync('bash', ['-c', `. tools/cluster.sh; cluster_place '${data}'`], { encoding: 'utf8' });
        execFileSync('kill', ['-KILL', execFileSync('head', ['-n1', join(cluster, 'postmaster.pid')], { encoding: 'utf8' }).trim()]);
        await sleep(200);
    }
    await healthy();
    done[what]++;
    slowest = Math.max(slowest, Date.now() - from);
}
await sleep(1500);
running = false;
await Promise.allSettled(writers);
await healthy();
const stored = new Map(
    sql('select key, count(*) from readings where key is not null group by key')
        .split('\n')
        .filter(Boolean)
        .map(line => line.split('|')),
);
const lost = [...acknowledged].filter(key => !stored.has(key)).length;
const doubled = [...stored.values()].filter(count => count !== '1').length;
console.log(
    `${kills} kills (${Object.entries(done)
        .map(([what, n]) => `${n} ${what}`)
        .join(', ')}) in ${Math.round((Date.now() - began) / 1000)} s; longest until it answered again ${(slowest / 1000).toFixed(1)} s`,
);
console.log(`${tries} readings sent, ${acknowledged.size} acknowledged, ${lost} of them lost, ${doubled} doubled`);
start.kill('SIGTERM');
await start.gone;
const verify = spawn('bash', ['./start', '--data', data, '--verify'], { stdio: ['ignore', 'inherit', 'inherit'] });
const code = await new Promise(done => verify.on('exit', done));
rmSync(data, { recursive: true, force: true });
process.exit(lost || doubled || code ? 1 : 0);
