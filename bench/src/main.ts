import { writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { against } from './against.js';
import { type Figure, isReached } from './figure.js';
import { figuresOf, PARTS } from './parts.js';
import { drawTable } from './table.js';

const { values } = parseArgs({
  options: {
    only: { type: 'string' },
    json: { type: 'string' },
    against: { type: 'string' },
    rounds: { type: 'string', default: '3' },
  },
});

const wanted = values.only?.split(',') ?? Object.keys(PARTS);
const unknown = wanted.filter((name) => !Object.hasOwn(PARTS, name));
if (unknown.length > 0) {
  console.error(`There is no part ${unknown.join(', ')}. There are: ${Object.keys(PARTS).join(', ')}.`);
  process.exit(2);
}

/** What is measured here and now, with where. */
const measured = async (): Promise<readonly Figure[]> => {
  console.log(`Node ${process.version}; both sides in one run, medians of alternating rounds\n`);
  const figures = await figuresOf(wanted, (name) => console.error(`${name} …`));
  console.log(drawTable(figures));
  // npm runs it in its own folder, and says where it was called.
  const folder = process.env['INIT_CWD'] ?? process.cwd();
  if (values.json !== undefined)
    writeFileSync(
      resolve(folder, values.json),
      `${JSON.stringify({ node: process.version, figures }, null, 2)}\n`,
    );
  return figures;
};

if (values.against !== undefined) {
  console.log(against(values.against, wanted, Number(values.rounds)));
} else {
  const missed = (await measured()).filter((figure) => !isReached(figure));
  if (missed.length > 0) console.log(`\n${missed.length} of these are behind their bars.`);
  process.exitCode = missed.length > 0 ? 1 : 0;
}
