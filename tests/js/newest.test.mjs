import assert from 'node:assert/strict';
import { test } from 'node:test';
import { newest } from '../../src/Uncial.Web/wwwroot/js/kept/newest.js';

const local = (at, by, ...ticked) => ({ of: 'finish', at, by, unit: 'mm', values: { Ticked: ticked } });
const remote = (by, ...ticked) => ({ Ticked: ticked, '': 'mm', '#': by });

test('what a slow server wrote down late does not take back a later tick of the same browser', () =>
    assert.deepEqual(newest(local(100, 'me:4', 'Wash', 'Hands'), remote('me:3', 'Wash'), 150).Ticked, ['Wash', 'Hands']));

test('what another screen added later is taken over', () =>
    assert.deepEqual(newest(local(100, 'me:4', 'Wash'), remote('you:1', 'Wash', 'Hands'), 150).Ticked, ['Wash', 'Hands']));

test('what another screen wrote before stays behind what is kept here', () =>
    assert.deepEqual(newest(local(200, 'me:4', 'Wash'), remote('you:9'), 150).Ticked, ['Wash']));

test('a browser that lost its copy, or was opened anew, takes what the server has', () => {
    assert.deepEqual(newest(null, remote('me:3', 'Wash'), 150).Ticked, ['Wash']);
    assert.deepEqual(newest(local(100, 'me:2'), remote('me:3', 'Wash'), 90).Ticked, ['Wash']);
});

test('with nothing kept anywhere there is nothing to restore', () => assert.equal(newest(null, null, 0), null));
