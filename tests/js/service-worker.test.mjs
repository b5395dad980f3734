import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { test } from 'node:test';
import { runInNewContext } from 'node:vm';

const origin = 'http://shop:5080';
const script = readFileSync(new URL('../../src/Uncial.Web/wwwroot/sw.js', import.meta.url), 'utf8');

// The worker with a cache of its own and a server that answers as the test says.
function worker(server) {
    const [listeners, kept] = [{}, new Map()];
    const name = key => (typeof key === 'string' ? key : key.url);
    const cache = {
        match: async key => kept.get(name(key)),
        put: async (key, answer) => {
            kept.set(name(key), answer);
        },
        keys: async () => [...kept.keys()].map(url => ({ url })),
        delete: async key => kept.delete(name(key)),
    };
    runInNewContext(script, {
        self: {
            addEventListener: (event, then) => {
                listeners[event] = then;
            },
            skipWaiting() {},
            clients: { claim() {} },
        },
        caches: { open: async () => cache },
        location: { origin },
        URL,
        fetch: request => server(request),
    });
    return async (path, mode = 'navigate') => {
        let answer;
        listeners.fetch({
            request: { method: 'GET', url: origin + path, mode },
            respondWith: a => {
                answer = a;
            },
        });
        return answer;
    };
}

const page = (text, status = 200, redirected = false, kept = 'no-cache') => ({
    text,
    headers: new Headers({ 'Cache-Control': kept }),
    status,
    ok: status < 400,
    redirected,
    clone() {
        return this;
    },
});

test('a page that is reloaded while the server is away is the last one that came, whichever point it asks for', async () => {
    let away = false;
    const ask = worker(async request => {
        if (away) throw new Error('away');
        return page(request.url);
    });
    assert.equal((await ask('/measure/TQB4T?at=90')).text, origin + '/measure/TQB4T?at=90');
    away = true;
    assert.equal((await ask('/measure/TQB4T?at=180')).text, origin + '/measure/TQB4T?at=90');
    await assert.rejects(ask('/measure/OTHER'));
});

test('a server that fails shows the last page, one without a copy shows the failure', async () => {
    let status = 200;
    const ask = worker(async () => page('page ' + status, status));
    await ask('/cut/TQB2R');
    status = 503;
    assert.equal((await ask('/cut/TQB2R')).text, 'page 200');
    assert.equal((await ask('/cut/TQB3S')).text, 'page 503');
});

test('the page of signing in never stands for a page of a part', async () => {
    let server = () => page('the part');
    const ask = worker(async () => server());
    await ask('/confirm/TQB2R');
    server = () => page('sign in', 200, true);
    assert.equal((await ask('/confirm/TQB2R')).text, 'sign in');
    server = () => {
        throw new Error('away');
    };
    assert.equal((await ask('/confirm/TQB2R')).text, 'the part');
});

test('what a fingerprint names is asked for once, and a new version takes the place of the old one', async () => {
    const asked = [];
    let [away, development] = [false, false];
    const ask = worker(async request => {
        if (away) throw new Error('away');
        asked.push(request.url);
        return page(request.url, 200, false, development ? 'no-cache' : 'max-age=31536000, immutable');
    });
    for (const path of ['/js/core/keys.cpwg5a3nl9.js', '/js/core/keys.cpwg5a3nl9.js', '/Pages/Part/Plan/Plan.kjvfcvheds.cshtml.js'])
        assert.equal((await ask(path, 'cors')).text, origin + path);
    assert.equal(asked.length, 2);
    await ask('/js/core/keys.wa1di622lx.js', 'cors');
    away = true;
    assert.equal((await ask('/js/core/keys.wa1di622lx.js', 'cors')).text, origin + '/js/core/keys.wa1di622lx.js');
    assert.ok(await ask('/Pages/Part/Plan/Plan.kjvfcvheds.cshtml.js', 'cors'));
    await assert.rejects(ask('/js/core/keys.cpwg5a3nl9.js', 'cors'));
    // A developer sees what he has changed.
    [away, development] = [false, true];
    await ask('/css/look.br0f2s8a1u.css', 'cors');
    await ask('/css/look.br0f2s8a1u.css', 'cors');
    assert.equal(asked.filter(url => url.includes('look')).length, 2);
});

test('other pages are left to the browser', async () => {
    const ask = worker(async () => page('x'));
    assert.equal(await ask('/logbook'), undefined);
    assert.equal(await ask('/cut/TQB2R?noisy=true'), undefined);
});
