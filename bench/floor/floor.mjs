// Kills instances, backends and the database in turn while forty screens read and a gauge sends, then loads one instance. Run by run.
import { spawn, execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Gauge, Person, ask, listen, sleep } from './people.mjs';

const [kills, screens, listeners, readers, seconds] = process.argv.slice(2).map(Number);
const { SCRATCH, APP, PG_BIN, CLUSTER, ADMINISTRATOR_PORT, ADMINISTRATOR_PASSWORD } = process.env;
const [proxy, ...ports] = [5990, 5991, 5992];
let chance = 20261202;
const random = n => (chance = (chance * 1103515245 + 12345) % 2147483648) % n;
const sorted = values => [...values].sort((a, b) => a - b);
const at = (values, share) => sorted(values)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0;

const psql = (...what) =>
    execFileSync(join(PG_BIN, 'psql'), ['-h', '127.0.0.1', '-p', ADMINISTRATOR_PORT, '-U', 'uncial', '-qAtX', 'uncial', ...what], {
        env: { ...process.env, PGPASSWORD: ADMINISTRATOR_PASSWORD },
        encoding: 'utf8',
        maxBuffer: 1 << 28,
    }).trim();
const sql = text => psql('-c', text);

// Instances, each started again as soon as it has ended, as a service is.
const instances = ports.map(port => ({ port, process: null }));
let closing = false;
function open(instance) {
    const { ADMINISTRATOR_PASSWORD: _, ...env } = process.env;
    instance.process = spawn('dotnet', [APP], {
        env: {
            ...env,
            ASPNETCORE_URLS: `http://127.0.0.1:${instance.port}`,
            ASPNETCORE_ENVIRONMENT: 'Production',
            Network__Proxies: '127.0.0.1',
        },
        stdio: ['ignore', process.env.LOUD === '2' ? 'inherit' : 'ignore', 'ignore'],
    });
    instance.process.on('exit', () => closing || open(instance));
}
const isReady = port =>
    ask(`http://127.0.0.1:${port}`, '/health/ready', { within: 2000 }).then(
        a => a.status === 200,
        () => false,
    );
async function ready() {
    for (let i = 0; i < 1200; i++) {
        if ((await Promise.all(ports.map(isReady))).every(r => r)) return;
        await sleep(50);
    }
    throw new Error('they do not come back');
}

writeFileSync(
    join(SCRATCH, 'nginx.conf'),
    `daemon off; pid ${SCRATCH}/nginx.pid; error_log ${SCRATCH}/nginx.log crit; worker_processes 1; events { worker_connections 8192; }
http { access_log off; client_body_temp_path ${SCRATCH}/body; proxy_temp_path ${SCRATCH}/proxy; fastcgi_temp_path ${SCRATCH}/f;
  uwsgi_temp_path ${SCRATCH}/u; scgi_temp_path ${SCRATCH}/s;
  upstream uncial { ${ports.map(p => `server 127.0.0.1:${p} max_fails=1 fail_timeout=1s;`).join(' ')} }
  server { listen 127.0.0.1:${proxy};
    location / { proxy_pass http://uncial; proxy_http_version 1.1; proxy_set_header Host $http_host; proxy_connect_timeout 1s;
      proxy_set_header X-Forwarded-For $remote_addr; proxy_set_header X-Forwarded-Proto $scheme; proxy_next_upstream error timeout; }
    location /news { proxy_pass http://uncial; proxy_http_version 1.1; proxy_set_header Host $http_host; proxy_buffering off;
      proxy_set_header X-Forwarded-For $remote_addr; proxy_read_timeout 60s; proxy_connect_timeout 1s; } } }`,
);
const nginx = spawn('nginx', ['-c', join(SCRATCH, 'nginx.conf')], { stdio: 'inherit', env: { PATH: `${process.env.PATH}:/usr/sbin` } });
// Asked to stop while it kills, it compares what there is by then.
let stopped = false;
for (const end of ['SIGTERM', 'SIGINT']) process.on(end, () => (stopped || !running ? process.exit(1) : (stopped = true)));
process.on('exit', () => {
    nginx.kill();
    instances.forEach(i => i.process?.kill('SIGKILL'));
});
instances.forEach(open);
await ready();
console.log('both instances answer');

const base = `http://127.0.0.1:${proxy}`;
// Each screen has rotors of its own, as copies of one of the demo data with its limits and nothing else; after so many readings it takes
// the next one, as nobody reads one part hundreds of times.
const readingsOfPart = 40;
const rotorsOfScreen = kills > 0 ? 12 : 4;
const tags = Array.from({ length: Math.max(screens, readers, 1) * rotorsOfScreen }, (_, i) => `FL${1000 + i}`);
const copy = (table, where, changes) =>
    `insert into ${table} select (jsonb_populate_record(t, jsonb_build_object(${changes}))).* from ${table} t where ${where};`;
const partOfTag = tag => `(select id from parts where tag = '${tag}')`;
const surfaceOfTag = tag => `(select s.id from surfaces s join parts p on p.id = s.part_id where p.tag = '${tag}')`;
const key = table => `'id', nextval(pg_get_serial_sequence('${table}', 'id'))`;
const copies = tags.map(
    tag => `begin;
${copy('parts', "t.tag = 'TQB5P'", `${key('parts')}, 'tag', '${tag}'`)}
${copy('surfaces', `t.part_id = ${partOfTag('TQB5P')}`, `${key('surfaces')}, 'part_id', ${partOfTag(tag)}`)}
${copy('limit_entries', `t.surface_id = ${surfaceOfTag('TQB5P')}`, `${key('limit_entries')}, 'surface_id', ${surfaceOfTag(tag)}`)}
commit;`,
);
writeFileSync(join(SCRATCH, 'rotors.sql'), copies.join('\n'));
psql('-f', join(SCRATCH, 'rotors.sql'));
const surfaces = new Map(
    sql("select p.tag, s.id from surfaces s join parts p on p.id = s.part_id where p.tag like 'FL%'")
        .split('\n')
        .map(line => line.split('|')),
);
const parts = tags.map(tag => ({ tag, entry: '27.51', surface: Number(surfaces.get(tag)) }));
// A rotor of the demo data is read with the micrometer that this plays.
const gauge = new Gauge();
const gaugePort = await gauge.listen(0);
const gaugeId = Number(sql("select id from gauges where name = 'Micrometer 1'"));
sql(`update gauges set address = null; update gauges set address = '127.0.0.1:${gaugePort}' where id = ${gaugeId}`);

const partOf = (screen, count, of) => parts[(screen + count * Math.floor(of.kept.length / readingsOfPart)) % parts.length];
const newLog = () => ({ tries: 0, kept: [], at: [], times: [], faults: [], waited: 0 });
let running = true;
const isOpen = () => running;

// As the watch of ./start does it: again until it answers, since one that was killed may be there for a moment longer.
const up = `for _ in $(seq 50); do
    (cluster_up '${SCRATCH}') && "$PG_BIN/pg_isready" -q -h 127.0.0.1 -p ${ADMINISTRATOR_PORT} && break
    sleep 0.2
done`;

async function kill(i) {
    const what = ['instance', 'backend', 'database', 'instance', 'hang'][i % 5];
    const instance = instances[random(instances.length)];
    if (what === 'instance') instance.process.kill('SIGKILL');
    else if (what === 'hang') {
        // The one that has the gauge stops answering for longer than an owner may, and comes back.
        const owner = instance.process;
        owner.kill('SIGSTOP');
        await sleep(6000);
        owner.kill('SIGCONT');
    } else if (what === 'backend') {
        const pids = sql("select pid from pg_stat_activity where usename = 'uncial_app'").split('\n').filter(Boolean);
        try {
            if (pids.length) execFileSync('kill', ['-KILL', pids[random(pids.length)]]);
        } catch {
            /* gone already */
        }
    } else {
        execFileSync('kill', ['-KILL', readFileSync(join(CLUSTER, 'postmaster.pid'), 'utf8').split('\n')[0].trim()]);
        await sleep(150);
        execFileSync('bash', ['-c', `. tools/cluster.sh; ensure_postgres; ${up}`], { stdio: 'ignore' });
    }
    return what;
}

async function killInTurn() {
    const logs = [];
    const people = [];
    const signedIn = [];
    for (let i = 0; i < 4; i++) {
        signedIn.push(new Person(base));
        await signedIn[i].signIn();
    }
    for (let i = 0; i < screens; i++) people.push(signedIn[i % signedIn.length]);
    const heard = people.map((p, i) => listen(p, `surface=${parts[i % parts.length].surface}`));
    const writers = people.map(async (person, i) => {
        const log = newLog();
        logs.push(log);
        while (running) {
            const part = partOf(i, screens, log);
            await person.read(part.tag, part.entry, log, {}, isOpen);
            await sleep(1000 + Math.random() * 2000);
        }
    });
    // A page that takes what the gauge sends: once each line, and once more where its owner is another one by then.
    const holder = new Person(base);
    await holder.signIn();
    const rotor = parts[0];
    const landed = new Map();
    const gaugeLog = newLog();
    const gaugePage = listen(holder, `surface=${rotor.surface}&gauge=${gaugeId}`, async (kind, sent) => {
        if (kind !== 'reading' || (landed.has(sent.line) && (landed.get(sent.line) === true || landed.get(sent.line) >= sent.fence)))
            return;
        landed.set(sent.line, sent.fence);
        const fields = { Line: sent.line, Fence: sent.fence, With: gaugeId };
        if (await holder.read(rotor.tag, sent.text, gaugeLog, { ...fields, Insisted: sent.text }, isOpen)) landed.set(sent.line, true);
    });
    const pressing = (async () => {
        while (running) {
            await gauge.press();
            await sleep(400);
        }
    })();
    await sleep(5000);
    const done = {};
    const outages = {};
    const begun = performance.now();
    let count = 0;
    for (let i = 0; i < kills && !stopped; i++) {
        count++;
        await sleep(500 + random(1500));
        const from = performance.now();
        const what = await kill(i);
        await ready();
        done[what] = (done[what] ?? 0) + 1;
        (outages[what] ??= []).push([from, performance.now()]);
        if (process.env.LOUD) console.log(`${what}: ready after ${((performance.now() - from) / 1000).toFixed(1)} s`);
        if (i % 20 === 19)
            console.log(`${i + 1} kills, ${logs.reduce((n, l) => n + l.kept.length, 0)} readings, ${gauge.taken.length} of the gauge`);
    }
    await sleep(3000);
    running = false;
    await Promise.allSettled([...writers, pressing]);
    heard.forEach(h => h.close());
    gaugePage.close();
    await ready();
    const kept = logs.flatMap(l => l.kept);
    const stored = new Map(
        sql('select key, count(*) from readings where key is not null group by key')
            .split('\n')
            .filter(Boolean)
            .map(line => line.split('|')),
    );
    const lines = new Map(
        sql(`select line, count(*) from readings where line is not null and gauge_id = ${gaugeId} group by line`)
            .split('\n')
            .filter(Boolean)
            .map(line => line.split('|')),
    );
    const lost = kept.filter(k => !stored.has(k)).length + gauge.taken.filter(l => !lines.has(l)).length;
    const doubled = [...stored.values(), ...lines.values()].filter(n => n !== '1').length;
    // From a kill to the next reading that any screen had answered, and to the last of those that waited through it.
    const all = sorted(logs.flatMap(l => l.at));
    const next = Object.entries(outages).map(([what, times]) => {
        const first = times.map(([from]) => (all.find(t => t > from) ?? from) - from);
        const longest = times.map(([from]) => Math.max(...logs.map(l => (l.at.find(t => t > from) ?? from) - from)));
        const says = values => `${(at(values, 0.5) / 1000).toFixed(1)} s (at most ${(Math.max(...values) / 1000).toFixed(1)})`;
        return `${what} ${done[what]}: some screen after ${says(first)}, every screen after ${says(longest)}`;
    });
    console.log(`${count} kills in ${Math.round((performance.now() - begun) / 1000)} s; to go on:\n  ${next.join('\n  ')}`);
    const sum = (of, what) => of.reduce((n, o) => n + what(o), 0);
    const tries = sum(logs, l => l.tries);
    console.log(`${tries} readings of ${screens} screens, ${kept.length} acknowledged`);
    console.log(
        `gauge: ${gauge.number} presses, ${gauge.taken.length} taken, ${gauge.refused} answered nobody, ${gauge.silent} not answered, ` +
            `${lines.size} stored`,
    );
    const broke = sum(heard, h => h.broke);
    console.log(`lost ${lost}, doubled ${doubled}; news: ${sum(heard, h => h.told)} told, ${broke} broken and opened anew`);
    return lost + doubled;
}

async function load() {
    const direct = `http://127.0.0.1:${ports[0]}`;
    const people = [];
    for (let i = 0; i < 4; i++) {
        const person = new Person(direct);
        await person.signIn();
        people.push(person);
    }
    const heard = Array.from({ length: listeners }, (_, i) =>
        listen(people[i % people.length], `surface=${parts[i % parts.length].surface}`),
    );
    for (let i = 0; i < 200 && heard.some(h => !h.open); i++) await sleep(100);
    const logs = Array.from({ length: readers }, newLog);
    running = true;
    const writers = logs.map(async (log, i) => {
        await sleep(Math.random() * 3000);
        while (running) {
            const part = partOf(i, readers, log);
            await people[i % people.length].read(part.tag, part.entry, log, {}, isOpen);
            await sleep(2000 + Math.random() * 2000);
        }
    });
    // What a fresh instance compiles in its first minute is not measured; its errors count.
    await sleep(60_000);
    logs.forEach(l => (l.times = []));
    const begun = performance.now();
    await sleep(seconds * 1000);
    running = false;
    await Promise.allSettled(writers);
    const times = logs.flatMap(l => l.times);
    const faults = logs.flatMap(l => l.faults);
    const lasted = (performance.now() - begun) / 1000;
    const open = heard.filter(h => h.open).length;
    const told = heard.reduce((n, h) => n + h.told, 0);
    console.log(
        `${listeners} listeners (${open} open) and ${readers} readers at one instance: ${times.length} readings in ${lasted.toFixed(0)} s`,
    );
    console.log(
        `${faults.length} errors; median ${at(times, 0.5).toFixed(0)} ms, 95th percentile ${at(times, 0.95).toFixed(0)} ms, longest ` +
            `${Math.max(...times).toFixed(0)} ms; ${told} told`,
    );
    heard.forEach(h => h.close());
    return faults.length;
}

let wrong = 0;
if (kills > 0) wrong += await killInTurn();
if (listeners > 0) wrong += await load();
closing = true;
process.exit(wrong ? 1 : 0);
