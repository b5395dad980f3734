import assert from 'node:assert/strict';
import { test } from 'node:test';
import { isCode, reader } from '../../src/Uncial.Web/wwwroot/js/core/scan.js';

const type = (read, text, gap, from = 1000) =>
    [...text]
        .map((c, i) => read(c, from + i * gap))
        .concat(read('Enter', from + text.length * gap))
        .at(-1);

test('what is typed faster than anybody can is a code once it ends with Enter', () => {
    assert.equal(type(reader(), 'TQA5S', 8).whole, 'TQA5S');
    assert.equal(type(reader(), 'TQA5S', 39).whole, 'TQA5S');
    assert.equal(type(reader(), 'TQA5S', 40).whole, null);
    assert.equal(type(reader(), 'TQA', 8).whole, null); // too short
});

test('its first two keys do what they always do, the others do nothing; Shift between them is none', () => {
    const read = reader();
    assert.equal(read('Shift', 0).swallow, false);
    assert.equal(read('T', 5).swallow, false);
    assert.equal(read('Shift', 8).swallow, false);
    assert.equal(read('Q', 12).swallow, false);
    assert.equal(read('A', 20).swallow, true);
    assert.equal(read('5', 30).swallow, true);
    assert.deepEqual(read('Enter', 40), { whole: 'TQA5', swallow: true });
    // Enter alone afterwards is the main action again.
    assert.deepEqual(read('Enter', 45), { whole: null, swallow: false });
});

test('ticking and walking on fast is no code', () => {
    const read = reader();
    for (const [i, key] of [' ', 'Tab', ' ', 'Tab', ' ', ' ', 'ArrowDown', ' ', 'Enter'].entries())
        assert.deepEqual(read(key, i * 5), { whole: null, swallow: false }, key);
});

test('a pause begins another code', () => {
    const read = reader();
    read('g', 0);
    for (const [i, c] of [...'TQB2'].entries()) read(c, 500 + i * 10);
    assert.equal(read('Enter', 540).whole, 'TQB2');
});

test('in the field of a figure a code begins with a letter, and no size is one', () => {
    const field = value => ({ value, matches: () => true });
    for (const code of ['TQA5S', ' TQA5S ', '1f0c', 'c0ffee99']) assert.equal(isCode(field(code)), /^[a-z]/i.test(code.trim()), code);
    for (const size of ['24.31', '8 7/8', '132t', 'x24', '0.957in', '']) assert.equal(isCode(field(size)), false, size);
    assert.equal(isCode({ value: 'TQA5S', matches: () => false }), false);
});
