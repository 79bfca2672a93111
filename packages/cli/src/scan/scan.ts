import { existsSync } from 'node:fs';
import { openDatabase, type Scan, scan } from '@gribo/sql';
import { CONFIG_NAME } from '../config/load-config.js';
import { writeWhole } from '../running/write-whole.js';
import { counted } from '../screen/counted.js';
import { Mistake } from '../screen/mistake.js';
import { withProgress } from '../screen/progress.js';
import type { Screen } from '../screen/screen.js';
import { hasPassword, starterConfig } from './starter-config.js';

export interface ScanOptions {
  readonly schema?: readonly string[];
  readonly out?: string;
  readonly force?: boolean;
  readonly start?: boolean;
}

/** Files by their paths. */
type Files = ReadonlyMap<string, string>;

const MODEL = 'gribo/model.ts';
const API = 'gribo/api.ts';

const filesOf = ({ source, api }: Scan, url: string, { out, start }: ScanOptions): Files => {
  if (start !== true) return new Map(out === undefined ? [] : [[out, source]]);
  return new Map([
    [MODEL, source],
    [API, api],
    [CONFIG_NAME, starterConfig(url)],
  ]);
};

const checkFree = (paths: readonly string[], force: boolean): void => {
  const taken = paths.filter((path) => existsSync(path));
  if (taken.length === 0 || force) return;
  throw new Mistake(
    `${taken.join(', ')} ${taken.length === 1 ? 'is' : 'are'} there already: add --force to write anew.`,
  );
};

const read = async (url: string, schemas: readonly string[] | undefined): Promise<Scan> => {
  const kysely = await openDatabase(url);
  try {
    return await withProgress('Reading the database', () =>
      scan(kysely, schemas === undefined ? {} : { schemas }),
    );
  } finally {
    await kysely.destroy();
  }
};

/** Prints or writes the model of a live database; with `start`, a first API and a configuration too. */
export const scanDatabase = async (url: string, options: ScanOptions, screen: Screen): Promise<void> => {
  const paths = options.start === true ? [MODEL, API, CONFIG_NAME] : [];
  // Looked at first: a long scan for nothing would be a pity.
  checkFree(options.out === undefined ? paths : [...paths, options.out], options.force === true);
  if (options.start === true && options.out !== undefined) {
    throw new Mistake('--start writes into gribo/ and gribo.config.ts: leave out --out.');
  }
  const found = await read(url, options.schema);
  const { entities, leftOut } = found.model;
  if (entities.length === 0)
    throw new Mistake(
      'There is no table with a primary key, and no view: name other schemas with --schema.',
      1,
    );
  const files = filesOf(found, url, options);
  if (files.size === 0) return screen.print(found.source.trimEnd());
  await writeWhole([...files].map(([path, text]) => ({ path, text })));
  const { colours } = screen;
  const links = entities.reduce((sum, entity) => sum + entity.links.length, 0);
  const columns = entities.reduce((sum, entity) => sum + entity.columns.length, 0);
  const views = entities.filter(({ readOnly }) => readOnly).length;
  const tables = counted(entities.length - views, 'table');
  const relations = views === 0 ? tables : `${tables}, ${counted(views, 'view')}`;
  screen.print(`${relations}, ${counted(columns, 'column')}, ${counted(links, 'link')}`);
  for (const path of files.keys()) screen.print(`  ${colours.bold(path)}`);
  const unsaid = entities.flatMap(({ table, unsaid }) =>
    unsaid.map(({ what, why }) => ({ table: `${table}, ${what}`, why })),
  );
  for (const { table, why } of [...leftOut, ...unsaid])
    screen.print(colours.yellow(`Left out: ${table.replaceAll(/\s+/g, ' ')}, for ${why}.`));
  const proposed = entities.filter(({ isKeyProposed }) => isKeyProposed).length;
  if (proposed > 0)
    screen.print(colours.yellow(`${counted(proposed, 'key')} proposed, for a view says none: look at each.`));
  const sealed = entities.flatMap((entity) => entity.columns).filter(({ isSecret }) => isSecret).length;
  if (sealed > 0) {
    screen.print(
      colours.yellow(`${counted(sealed, 'column')} sealed because of the name: each asks for a decision.`),
    );
  }
  const [first] = entities;
  if (options.start !== true || first === undefined) return;
  const before = hasPassword(url) ? 'set DATABASE_URL, for a password is not written into a file; then ' : '';
  screen.print(`\nNext: ${before}gribo show ${first.name}.list`);
};
