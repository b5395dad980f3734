import assert from 'node:assert/strict';
import { test } from 'node:test';
import { spelled } from '../../src/Uncial.Web/wwwroot/js/core/units.js';

const field = (value, { length = true, gauge, unit } = {}) => ({
    value,
    dataset: { gauge, unit },
    hasAttribute: name => name === 'data-length' && length,
});

test('a bare figure keeps the unit in which it was typed when the page shows another', () => {
    assert.equal(spelled(field('24.31'), 'mm'), '24.31mm');
    assert.equal(spelled(field('8 7/8'), 'in'), '8 7/8in');
    assert.equal(spelled(field('24.31', { unit: 'in' }), 'mm'), '24.31in');
});

test('each term of a sum gets its unit', () => assert.equal(spelled(field('24 + 0.31'), 'mm'), '24mm + 0.31mm'));

test('what has a unit, is no length, comes from a gauge with its own unit, or is empty stays as it is', () => {
    assert.equal(spelled(field('24.31mm'), 'in'), '24.31mm');
    assert.equal(spelled(field('12', { length: false }), 'mm'), '12');
    assert.equal(spelled(field('24.31', { gauge: '3' }), 'mm'), '24.31');
    assert.equal(spelled(field(''), 'mm'), '');
});
