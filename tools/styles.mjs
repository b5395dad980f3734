// Puts the styles that stand beside the pages into one sheet, in the layer above Bulma: node styles.mjs PAGES TO
// A later file wins over an earlier one of the same weight, so the order is part of the design.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const order = [
    'Shared/Base.css',
    'Shared/StockRule.css',
    'Shared/Entry.css',
    'Part/Plan/Plan.css',
    'Part/Cut/Cut.css',
    'Part/Confirm/Confirm.css',
    'Board/Bench.css',
    'Board/Day.css',
    'Board/Wall/Wall.css',
    'Account/SignIn.css',
    'Account/Lock.css',
    'Logbook/Logbook.css',
    'Paper/Paper.css',
    'Intake/Receive.css',
    'Shared/Asking.css',
    'Shared/Worked.css',
    'Part/Reading/Reading.css',
    'Part/Inspect/Inspect.css',
    'Part/Measure/Measure.css',
    'Part/Mount/Mount.css',
    'Part/Cut/AtTheLathe.css',
    'Part/Cut/LatheView.css',
    'Part/Plan/Sheets.css',
    'Workshop/Files/Files.css',
    'Workshop/Tablets/Tablets.css',
    'Workshop/Hours/Hours.css',
    'Logbook/Statistics.css',
    'Part/Confirm/Evidence.css',
    'Part/Release/Release.css',
    'Part/Pair/Pair.css',
    'Handbook/Handbook.css',
    'Practice/Practice.css',
    'Practice/Job/Job.css',
    'Practice/Classes/Classes.css',
    'Shared/Widths.css',
];

const [pages, to] = process.argv.slice(2);
const there = readdirSync(pages, { recursive: true }).filter(f => f.endsWith('.css'));
for (const file of there) if (!order.includes(file)) throw new Error(`${file} has no place in the order of tools/styles.mjs.`);
const sheet = order.map(f => readFileSync(join(pages, f), 'utf8')).join('');
writeFileSync(to, `/* Made by tools/styles.mjs from the styles beside the pages. */\n@layer uncial {\n${sheet}}\n`);
