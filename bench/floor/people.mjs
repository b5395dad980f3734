// Screens and a gauge, as a shop has them: what they do is written down by themselves.
import { randomUUID } from 'node:crypto';
import http from 'node:http';
import net from 'node:net';

export const sleep = ms => new Promise(done => setTimeout(done, ms));
const agent = new http.Agent({ keepAlive: true, maxSockets: 2000 });

// One request; never longer than it may take.
export function ask(base, path, { method = 'GET', headers = {}, body = null, within = 5000 } = {}) {
    return new Promise((done, fail) => {
        const request = http.request(base + path, { method, headers, agent, signal: AbortSignal.timeout(within) }, answer => {
            const parts = [];
            answer.on('data', part => parts.push(part));
            answer.on('end', () => done({ status: answer.statusCode, headers: answer.headers, text: Buffer.concat(parts).toString() }));
            answer.on('error', fail);
        });
        request.on('error', fail);
        request.end(body);
    });
}

// A person at a screen: cookies and the form's token.
export class Person {
    jar = new Map();
    constructor(base) {
        this.base = base;
    }
    cookies() {
        return [...this.jar].map(([name, value]) => `${name}=${value}`).join('; ');
    }
    keep(answer) {
        for (const c of answer.headers['set-cookie'] ?? []) {
            const [name, ...value] = c.split(';')[0].split('=');
            this.jar.set(name, value.join('='));
        }
        return answer;
    }
    async token(path) {
        const answer = this.keep(await ask(this.base, path, { headers: { cookie: this.cookies() }, within: 20000 }));
        return /__RequestVerificationToken" type="hidden" value="([^"]+)/.exec(answer.text)?.[1];
    }
    post(path, fields, within = 5000) {
        const body = new URLSearchParams({ ...fields, __RequestVerificationToken: this.form }).toString();
        const headers = { cookie: this.cookies(), 'content-type': 'application/x-www-form-urlencoded' };
        return ask(this.base, path, { method: 'POST', headers, body, within });
    }
    async signIn() {
        this.form = await this.token('/SignIn');
        const answer = this.keep(await this.post('/SignIn?handler=Pin', { Who: 'tom', Pin: '1304' }, 20000));
        if (answer.status !== 302) throw new Error('nobody is signed in');
        this.form = await this.token('/check');
    }
    // A reading under a name of its own, sent again until it is answered: as the page and its outbox do it.
    async read(tag, entry, log, more = {}, isOpen = () => true) {
        const key = randomUUID();
        const begun = performance.now();
        log.tries++;
        while (isOpen()) {
            const from = performance.now();
            try {
                const fields = {
                    at: '0',
                    depth: '',
                    Key: key,
                    Seen: '9000000000000000000',
                    Cuts: '0',
                    Entry: entry,
                    Insisted: entry,
                    Turn: '0',
                    ...more,
                };
                const { status } = await this.post(`/measure/${tag}?handler=Keep`, fields);
                log.times.push(performance.now() - from);
                if (status === 302) {
                    log.kept.push(key);
                    log.at.push(performance.now());
                    log.waited = Math.max(log.waited, performance.now() - begun);
                    return true;
                }
                if (status === 200) return false; // something is asked: of a gauge's reading, that it comes again
                log.faults.push(status);
                if (status < 500 && status !== 409) throw new Error(`refused with ${status} at ${tag}`);
            } catch (e) {
                log.faults.push(e.code ?? e.name);
                if (/refused/.test(e.message)) console.log(e.message);
            }
            await sleep(50 + Math.random() * 100);
        }
        return false;
    }
}

// What a page listens to; opened anew whenever it breaks, as a browser does.
export function listen(person, query, hear) {
    const state = { open: 0, told: 0, broke: 0, stop: false };
    let request;
    const connect = () => {
        if (state.stop) return;
        const again = () => {
            if (state.stop || request.done) return;
            request.done = true;
            state.broke++;
            setTimeout(connect, 300);
        };
        request = http.request(`${person.base}/news?${query}`, { headers: { cookie: person.cookies() }, agent: false }, answer => {
            if (answer.statusCode !== 200) {
                answer.resume();
                again();
                return;
            }
            state.open++;
            let text = '';
            answer.on('data', part => {
                text += part;
                for (let end; (end = text.indexOf('\n\n')) >= 0; text = text.slice(end + 2)) {
                    const kind = /^event: (.*)$/m.exec(text.slice(0, end))?.[1];
                    const data = /^data: (.*)$/m.exec(text.slice(0, end))?.[1];
                    state.told++;
                    hear?.(kind, data ? JSON.parse(data) : null);
                }
            });
            answer.on('end', again);
            answer.on('error', again);
        });
        request.on('error', again);
        request.end();
    };
    connect();
    state.close = () => {
        state.stop = true;
        request.destroy();
    };
    return state;
}

// A gauge that talks as docs/formats/gauge-line.md says, and writes down which of its readings it was told were taken.
export class Gauge {
    hosts = new Set();
    number = 0;
    taken = [];
    refused = 0;
    session = randomUUID().slice(0, 8);
    silent = 0;
    listen(port) {
        this.server = net.createServer(host => {
            this.hosts.add(host);
            host.setNoDelay(true);
            host.write(`HELLO v=1 session=${this.session} battery=80\n`);
            const beat = setInterval(() => host.write(`NOW value=${this.value()} unit=mm stable=yes battery=80\n`), 400);
            let text = '';
            host.on('data', part => {
                text += part;
                for (let end; (end = text.indexOf('\n')) >= 0; text = text.slice(end + 1)) this.hear(text.slice(0, end));
            });
            const gone = () => {
                clearInterval(beat);
                this.hosts.delete(host);
            };
            host.on('close', gone);
            host.on('error', gone);
        });
        return new Promise(done => this.server.listen(port, '127.0.0.1', () => done(this.server.address().port)));
    }
    value() {
        return (24.3 + (this.number % 9) / 1000).toFixed(3);
    }
    hear(line) {
        const [, word, n] = /^(TAKEN|NOBODY) n=(\d+)$/.exec(line) ?? [];
        if (!word || Number(n) !== this.number || this.answer) return;
        this.answer = word;
    }
    // Presses the button: repeated every half second until it is answered, for at most eight seconds.
    async press() {
        this.number++;
        this.answer = null;
        const line = `SEND n=${this.number} value=${this.value()} unit=mm stable=yes battery=80\n`;
        for (let i = 0; i < 16 && !this.answer; i++) {
            for (const host of this.hosts) host.write(line);
            for (let j = 0; j < 25 && !this.answer; j++) await sleep(20);
        }
        if (this.answer === 'TAKEN') this.taken.push(`${this.session}:${this.number}`);
        else if (this.answer) this.refused++;
        else this.silent++;
    }
}
