import type { BoundEntity } from 'gribo';
import type { ColumnPlan } from 'gribo/kit';
import { KnownModel } from '../asked/known-model.js';
import type { GriboConfig } from '../config/config.js';
import type { Screen } from '../screen/screen.js';
import { capital, key, quoted, reach } from './names.js';

export interface DraftOptions {
  readonly model: string;
}

/** Text without a limit, or with one above this, is long. */
const LONG = 200;

const isLong = ({ type }: ColumnPlan): boolean =>
  type.kind === 'text' && (type.max === null || type.max > LONG) && type.pattern === null;

/** Whether no body sets it: the database makes it, or each change stamps it. */
const isMade = ({ generated, stamped }: ColumnPlan): boolean => generated || stamped !== null;

/** Lines under a heading; nothing where there are none. */
const section = (heading: string, lines: readonly string[]): readonly string[] =>
  lines.length === 0 ? [] : [`    // ${heading}`, ...lines.map((line) => `    ${line}`)];

const shapeLines = ({ entity, links }: BoundEntity, row: string): readonly string[] => {
  const open = entity.columns.filter((column) => column.sealed === null);
  const sealed = entity.columns.filter((column) => column.sealed !== null);
  const line = ({ name }: ColumnPlan): string => `${key(name)}: ${reach(row, name)},`;
  const made = open.filter((column) => isMade(column) && !column.key);
  const long = open.filter((column) => isLong(column) && !isMade(column));
  const shown = open.filter((column) => !made.includes(column) && !long.includes(column));
  return [
    ...section('Shown: keep what a client needs.', shown.map(line)),
    ...section(
      'Long text: at({ list: shorten(…, 80), read: … }), or leave it to reading one.',
      long.map(line),
    ),
    ...section('Made by the database, or stamped by each change: seldom for clients.', made.map(line)),
    ...section(
      'Sealed: decide for whom, or mask it, or delete the line.',
      sealed.map(
        ({ name, sealed: why }) => `// ${key(name)}: unseal('an audience', ${reach(row, name)}), // ${why}`,
      ),
    ),
    ...section(
      'Links: nest a shape, flatten a name, count, or delete the line.',
      [...links.values()].map((link) =>
        link.kind === 'toOne'
          ? `// ${key(link.name)}: ${capital(link.target.name)}(${reach(row, link.name)}),`
          : `// ${key(link.name)}: count(${reach(row, link.name)}),`,
      ),
    ),
  ];
};

const inputLines = ({ entity, links }: BoundEntity, row: string): readonly string[] => {
  const made = entity.columns.filter(isMade);
  const taken = entity.columns.filter((column) => !isMade(column));
  const line = ({ name, nullable }: ColumnPlan): string =>
    nullable ? `${key(name)}: optional(${reach(row, name)}),` : `${key(name)}: ${reach(row, name)},`;
  return [
    ...section(
      'Taken: required, or optional where it may be null.',
      taken.filter((column) => column.sealed === null).map(line),
    ),
    ...section(
      'Sealed: they may come in; delete what clients do not set.',
      taken.filter((column) => column.sealed !== null).map(line),
    ),
    ...section(
      'Made by the database: only if a client decides it.',
      made.map(({ name }) => `// ${key(name)}: assigned(${reach(row, name)}),`),
    ),
    ...section(
      'Links: nest an input.',
      [...links.values()].map(
        (link) => `// ${key(link.name)}: New${capital(link.target.name)}(${reach(row, link.name)}),`,
      ),
    ),
  ];
};

/** Prints a starter shape and input of an entity: a module that compiles as it stands. */
export const draft = (
  config: GriboConfig,
  name: string,
  { model: path }: DraftOptions,
  screen: Screen,
): void => {
  const bound = new KnownModel(config).entity(name);
  const row = name.charAt(0).toLowerCase();
  const input = inputLines(bound, row);
  const names = [
    'input',
    ...(input.some((line) => /^ *\S+ optional\(/.test(line)) ? ['optional'] : []),
    'shape',
  ];
  const lines = [
    `import { ${names.join(', ')} } from 'gribo';`,
    `import { db } from ${quoted(path)};`,
    '',
    '// Every column is listed: keep what belongs here, and delete the rest.',
    `export const ${capital(name)} = shape(`,
    `  db.${name},`,
    `  (${row}) => ({`,
    ...shapeLines(bound, row),
    '  }),',
    `  { name: '${capital(name)}' },`,
    ');',
    '',
    `export const New${capital(name)} = input(`,
    `  db.${name},`,
    `  (${row}) => ({`,
    ...input,
    '  }),',
    `  { name: 'New${capital(name)}' },`,
    ');',
  ];
  screen.print(lines.join('\n'));
};
