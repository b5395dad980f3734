import assert from 'node:assert/strict';
import { test } from 'node:test';
import { echo, sayBelow } from '../../src/Uncial.Web/wwwroot/js/core/echo.js';

// A field on a page, and a server that answers when it is told to.
function page(value) {
    const says = { textContent: '' };
    const box = { classList: { toggle() {}, remove() {} }, querySelector: () => says };
    const answers = [];
    globalThis.document = { querySelector: () => null, body: { dataset: {} } };
    globalThis.fetch = () => new Promise(done => answers.push(text => done({ json: async () => ({ echo: text }) })));
    return { says, answers, input: { value, dataset: {}, form: null, matches: () => false, closest: () => box } };
}

test('what the server reads in a field is shown below it', async () => {
    const { input, says, answers } = page('9');
    const shown = echo(input);
    answers[0]('9.00 mm');
    await shown;
    assert.equal(says.textContent, '9.00 mm');
});

test('an answer that comes late writes over neither a later answer nor what was said since', async () => {
    const { input, says, answers } = page('9');
    const first = echo(input);
    const second = echo(input);
    answers[1]('9.1 mm');
    await second;
    answers[0]('9.00 mm');
    await first;
    assert.equal(says.textContent, '9.1 mm');
    const third = echo(input);
    sayBelow(input, 'Enter keeps the figure first.');
    answers[2]('9.2 mm');
    await third;
    assert.equal(says.textContent, 'Enter keeps the figure first.');
});
