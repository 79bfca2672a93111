// Draws which room of the core imports which, and which package needs which, from the code as it is: docs/rooms.svg.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { instance } from '@viz-js/viz';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const CORE = join(ROOT, 'packages/gribo/src');

/** What the rooms do, in the order in which a declaration becomes something else. */
const GROUPS = {
  declare: ['declare'],
  plan: ['plan', 'resolve', 'shown', 'editions'],
  emit: [
    'codegen',
    'write',
    'read',
    'load',
    'change',
    'contract',
    'describe',
    'review',
    'sample',
    'weigh',
    'rows',
    'store',
  ],
  shared: ['values', 'errors', 'util'],
};

const roomOf = (path) => (path.includes('/') ? path.split('/')[0] : 'top');

/** How often one room imports another: `from>to` by number. */
const imports = () => {
  const counts = new Map();
  for (const file of readdirSync(CORE, { recursive: true, encoding: 'utf8' })) {
    if (!file.endsWith('.ts') || /\.(test|types)\.ts$|^testing\//.test(file)) continue;
    const from = roomOf(file);
    const text = readFileSync(join(CORE, file), 'utf8');
    for (const [, to = ''] of text.matchAll(/from '(\.[^']+)'/g)) {
      const target = roomOf(relative(CORE, join(CORE, dirname(file), to)));
      if (target === from || from === 'top' || target === 'top') continue;
      counts.set(`${from}>${target}`, (counts.get(`${from}>${target}`) ?? 0) + 1);
    }
  }
  const known = Object.values(GROUPS).flat();
  const lost = [...counts.keys()].flatMap((pair) => pair.split('>')).filter((room) => !known.includes(room));
  if (lost.length > 0) throw new Error(`of no group in site/rooms.mjs: ${[...new Set(lost)].join(', ')}`);
  return counts;
};

/** Rooms that everybody imports say nothing by their arrows: they are named, and not drawn to. */
const isSaid = (to) => !GROUPS.shared.includes(to);

const quoted = (text) => JSON.stringify(text);

const graph = () => {
  const edges = [...imports()]
    .map(([pair, count]) => [...pair.split('>'), count])
    .filter(([, to]) => isSaid(to))
    .sort(([a, b], [c, d]) => `${a}${b}`.localeCompare(`${c}${d}`));
  const clusters = Object.entries(GROUPS).map(
    ([group, rooms]) => `subgraph ${quoted(`cluster_${group}`)} {
      label=${quoted(group)}; color="#9fb8b4"; fontcolor="#33524d"; style="rounded";
      ${rooms.map(quoted).join('; ')};
    }`,
  );
  const needs = readdirSync(join(ROOT, 'packages'))
    .filter((name) => name !== 'gribo')
    .sort()
    .map((name) => {
      const {
        name: called,
        dependencies = {},
        private: isPrivate,
      } = JSON.parse(readFileSync(join(ROOT, 'packages', name, 'package.json'), 'utf8'));
      return {
        called: isPrivate ? name : called,
        needs: Object.keys(dependencies).filter((each) => each.startsWith('@gribo')),
      };
    });
  return `digraph rooms {
    rankdir=LR; fontname="sans-serif"; ranksep=0.8; nodesep=0.18;
    node [shape=box, style="rounded,filled", fillcolor="#eef5f3", color="#5c8079", fontname="sans-serif", fontsize=13];
    edge [color="#8aa39e", arrowsize=0.6];
    subgraph cluster_core { label="gribo: rooms, and what they import"; fontname="sans-serif"; color="#5c8079"; style="rounded";
      ${clusters.join('\n')}
      ${edges.map(([from, to, count]) => `${quoted(from)} -> ${quoted(to)} [penwidth=${(0.7 + Math.log2(count) / 2.5).toFixed(1)}]`).join(';\n')};
    }
    ${needs.map(({ called }) => `${quoted(called)} [fillcolor="#fff7e6", color="#a8842f"]`).join('; ')};
    ${needs.map(({ called, needs: wanted }) => [`${quoted(called)} -> "declare" [lhead=cluster_core, style=dashed, color="#a8842f"]`, ...wanted.map((to) => `${quoted(called)} -> ${quoted(to)} [style=dashed, color="#a8842f"]`)].join('; ')).join(';\n')};
    compound=true;
  }`;
};

/** The picture as text. */
export const drawRooms = async () => {
  const viz = await instance();
  const svg = viz.renderString(graph(), { format: 'svg' });
  // White behind it, for pages that are dark; no comments of whoever drew it.
  return `${svg
    .replaceAll(/<!--.*?-->\n?/gs, '')
    .replace(/<\?xml.*?\?>\n?|<!DOCTYPE.*?>\n?/gs, '')
    .trim()}\n`;
};

if (process.argv[1] === fileURLToPath(import.meta.url))
  writeFileSync(join(ROOT, 'docs/rooms.svg'), await drawRooms());
