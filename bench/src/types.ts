import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { alone, type Figure } from './figure.js';

const HERE = dirname(fileURLToPath(import.meta.url));
const FOLDER = join(HERE, '..', '.cache', 'types');
const ENTITIES = 200;
const COLUMNS = 32;

const columnOf = (n: number): string =>
  ['integer()', 'text()', 'text().nullable()', 'timestamp()', "oneOf('a', 'b')", 'bool()'][n % 6] ?? 'text()';

const entityOf = (i: number): string => {
  const columns = Array.from({ length: COLUMNS - 2 }, (_, n) => `  c${n}: ${columnOf(n)},`);
  return `const e${i} = entity('e${i}', {\n  id: integer().key(),\n  nextId: integer().nullable(),\n${columns.join('\n')}\n});`;
};

const shapesOf = (i: number): string => {
  const next = (i + 1) % ENTITIES;
  const members = Array.from({ length: 12 }, (_, n) => `c${n}: r.c${n}`).join(', ');
  return [
    `export const Brief${i} = shape(db.e${i}, (r) => ({ id: r.id, ${members} }));`,
    `export const Detail${i} = shape(db.e${i}, (r) => ({ ...Brief${i}(r), far: r.next.next.c1, next: Brief${next}Late(r.next), many: count(r.many), age: derive([r.c0], integer(), (n) => n + 1) }));`,
    `export const out${i} = (d: Output<typeof Detail${i}>): string | null => d.far;`,
  ]
    .join('\n')
    .replaceAll(`Brief${next}Late`, `Brief${i}Of`);
};

/** A module of 200 entities of 32 columns each, with 400 shapes over them. */
const source = (): string => {
  const all = Array.from({ length: ENTITIES }, (_, i) => i);
  const links = all.map((i) => {
    const next = (i + 1) % ENTITIES;
    return `  e${i}: { next: toOne('e${next}', 'nextId'), many: toMany('e${next}', 'nextId') },`;
  });
  const late = all.map((i) => `const Brief${i}Of = shape(db.e${(i + 1) % ENTITIES}, (r) => ({ id: r.id }));`);
  return [
    "import { bool, count, derive, entity, integer, model, oneOf, type Output, shape, text, timestamp, toMany, toOne } from 'gribo';",
    ...all.map(entityOf),
    `const db = model({ ${all.map((i) => `e${i}`).join(', ')} }, {\n${links.join('\n')}\n});`,
    ...late,
    ...all.map(shapesOf),
  ].join('\n');
};

const number = (report: string, name: string): string =>
  new RegExp(`${name}:\\s+([\\d.]+)`).exec(report)?.[1] ?? '?';

/** Type-checks a large model: what it takes, beside the same file with nothing declared. */
export const benchTypes = (): readonly Figure[] => {
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  const options = {
    target: 'es2023',
    module: 'nodenext',
    strict: true,
    noEmit: true,
    skipLibCheck: true,
    types: [],
    lib: ['es2023', 'dom'],
  };
  const compiler = join(
    dirname(createRequire(import.meta.url).resolve('typescript/package.json')),
    'bin',
    'tsc',
  );
  const figure = (what: string, text: string): Figure => {
    writeFileSync(join(FOLDER, 'large.ts'), text);
    writeFileSync(
      join(FOLDER, 'tsconfig.json'),
      JSON.stringify({ compilerOptions: options, files: ['large.ts'] }),
    );
    const report = execFileSync(process.execPath, [compiler, '-p', FOLDER, '--extendedDiagnostics'], {
      encoding: 'utf8',
    });
    const beside = `${Number(number(report, 'Instantiations')).toLocaleString('en')} instantiations, ${number(report, 'Total time')} s in all`;
    return alone(what, Number(number(report, 'Check time')), 's', { beside });
  };
  return [
    figure('types of 200 entities of 32 columns, 400 shapes', source()),
    figure('types of nothing but the import', "export { shape } from 'gribo';"),
  ];
};
