// Puts a style sheet into a cascade layer: node layer.mjs LAYER FROM TO
import { readFileSync, writeFileSync } from 'node:fs';

const [layer, from, to] = process.argv.slice(2);
const css = readFileSync(from, 'utf8').replace(/^\uFEFF?@charset "[^"]*";/, '');
if (css.includes('@import')) throw new Error(`${from} imports another sheet, which no layer may hold.`);
writeFileSync(to, `@layer ${layer}{${css}}\n`);
