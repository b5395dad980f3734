import assert from 'node:assert/strict';
import { test } from 'node:test';
import { proposal } from '../../src/Uncial.Web/wwwroot/js/core/propose.js';

const vehicles = ['Brindle L3 van', 'Brindle L2 van', 'Pilchard city car'];

test('the first that begins as typed is proposed, whatever its case', () => {
    assert.equal(proposal('bri', vehicles), 'Brindle L3 van');
    assert.equal(proposal('Brindle L2', vehicles), 'Brindle L2 van');
});

test('what is whole already, unknown or empty proposes nothing', () => {
    for (const typed of ['Pilchard city car', 'Otter', '', ' ']) assert.equal(proposal(typed, vehicles), null);
});
