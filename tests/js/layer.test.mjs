import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';

const folder = mkdtempSync(join(tmpdir(), 'layer-'));
const tool = new URL('../../tools/layer.mjs', import.meta.url).pathname;

function layered(css) {
    writeFileSync(join(folder, 'from.css'), css);
    execFileSync('node', [tool, 'vendor', join(folder, 'from.css'), join(folder, 'to.css')], { stdio: 'pipe' });
    return readFileSync(join(folder, 'to.css'), 'utf8');
}

test('a sheet goes into its layer without its charset, which no layer may hold', () =>
    assert.equal(layered('@charset "UTF-8";a{color:red}'), '@layer vendor{a{color:red}}\n'));

test('a sheet that imports another is refused: an import inside a layer is dropped by browsers', () =>
    assert.throws(() => layered('@import "x.css";')));
