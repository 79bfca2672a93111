import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { type Figure, keyOf } from './figure.js';
import { plotOf } from './plot.js';
import { shown } from './table.js';

/** The figures of one run, as `--json` writes them. */
export interface Run {
  readonly node: string;
  readonly figures: readonly Figure[];
}

const FIGURES = fileURLToPath(new URL('../figures/', import.meta.url));
const PAGE = fileURLToPath(new URL('../../docs/speed.md', import.meta.url));
const PLOT = fileURLToPath(new URL('../../docs/speed.svg', import.meta.url));

const runsIn = (folder: string): readonly Run[] =>
  readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .sort()
    .map((name) => JSON.parse(readFileSync(folder + name, 'utf8')) as Run);

/** A table of Markdown. */
const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');

const major = (node: string): string => `Node ${/\d+/.exec(node)?.[0]}`;

/** The ratios of what every run has, by version of Node. */
const byVersion = (runs: readonly Run[]): string => {
  const [first] = runs;
  const rows = (first?.figures ?? []).flatMap((figure) => {
    const ratios = runs.map(({ figures }) => figures.find((one) => keyOf(one) === keyOf(figure))?.ratio);
    if (ratios.some((ratio) => ratio === undefined || ratio === null)) return [];
    return [[keyOf(figure), ...ratios.map((ratio) => `${ratio?.toFixed(2)}×`)]];
  });
  return table(['what', ...runs.map(({ node }) => major(node))], rows);
};

/** All figures of one run. */
const whole = ({ figures }: Run): string =>
  table(
    ['what', 'theirs', 'Gribo', 'ratio', 'beside'],
    figures.map((figure) => {
      const { theirs, ours, unit, ratio, beside } = figure;
      return [
        keyOf(figure),
        theirs === null ? '' : shown(theirs, unit),
        shown(ours, unit),
        ratio === null ? '' : `${ratio.toFixed(2)}×`,
        beside,
      ];
    }),
  );

const pageOf = (runs: readonly Run[]): string => {
  const longest = [...runs].sort((a, b) => b.figures.length - a.figures.length)[0];
  if (longest === undefined) throw new Error('there are no figures');
  return `# How fast it is

Both sides are measured in one run, in turns, after their outputs were compared: a ratio is how many times as fast
Gribo was, as the median of the rounds. Times are of the machine that measured them; run it on yours:

\`\`\`sh
npm run bench
\`\`\`

| option | what it does | example |
|---|---|---|
| \`--only <parts>\` | only some parts | \`npm run bench -- --only write,read\` |
| \`--json <file>\` | writes the figures too | \`npm run bench -- --json figures.json\` |
| \`--against <revision>\` | compares with another revision on the same machine, in turns: then, now, then, now | \`npm run bench -- --against HEAD~5 --only write\` |
| \`--rounds <number>\` | how often each of the two is run; 3 unless told otherwise | \`npm run bench -- --against main --rounds 5\` |

With \`GRIBO_POSTGRES\` set, what takes a server of PostgreSQL is measured on that.

## By version of Node

![Times as fast as what people write by hand, by version of Node](speed.svg)

${byVersion(runs)}

"Ready objects" are plain objects that have the shape of the response already: nothing is left to do but to write them.
Node 26 writes those faster than Gribo writes rows; on the others Gribo is faster.

## All of it, on ${major(longest.node)}

${whole(longest)}

This page is made by \`npm run speed -w bench\` from the figures in \`bench/figures\`.
`;
};

const runs = runsIn(FIGURES);
writeFileSync(PAGE, pageOf(runs));
writeFileSync(PLOT, plotOf(runs));
