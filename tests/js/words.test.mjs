import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { test } from 'node:test';

const web = new URL('../../src/Uncial.Web/', import.meta.url);
const words = Object.fromEntries(
    [...readFileSync(new URL('Text/Script.resx', web), 'utf8').matchAll(/name="script\.(\w+)"[^>]*><value>([^<]*)/g)].map(m => [
        m[1],
        m[2],
    ]),
);

globalThis.document = { body: { dataset: { words: JSON.stringify(words) } } };
const { say } = await import('../../src/Uncial.Web/wwwroot/js/core/words.js');

test('a text comes from the page with what is put in', () => {
    assert.equal(say('someWait', 3), '3 readings wait');
    assert.equal(say('placeAt', 'Read again', '4½'), 'Read again at 4½');
});

test('every text that a script names is in the resource file, and none is there for nobody', () => {
    const scripts = ['wwwroot/js/', 'Pages/'].flatMap(folder =>
        readdirSync(new URL(folder, web), { recursive: true })
            .filter(f => f.endsWith('.js'))
            .map(f => folder + f),
    );
    const named = new Set(
        scripts.flatMap(f =>
            [...readFileSync(new URL(f, web), 'utf8').matchAll(/say\(([^;]*)/g)].flatMap(m =>
                [...m[1].matchAll(/'(\w+)'/g)].map(k => k[1]),
            ),
        ),
    );
    for (const key of Object.keys(words)) assert.ok(named.has(key), `${key} is used`);
    for (const f of scripts)
        for (const [, key] of readFileSync(new URL(f, web), 'utf8').matchAll(/\bsay\('(\w+)'/g))
            assert.ok(key in words, `${key} of ${f} has words`);
});
