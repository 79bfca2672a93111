import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { seemsSecret } from '@gribo/sql';
import { CONFIG_NAME } from '../config/load-config.js';
import { writeWhole } from '../running/write-whole.js';
import { scanDatabase } from '../scan/scan.js';
import { Mistake } from '../screen/mistake.js';
import type { Screen } from '../screen/screen.js';
import type { Beginning } from './beginning.js';
import { type DrizzleFound, findProject, type ProjectFound } from './find-project.js';
import { drizzleFiles, emptyFiles, type TableFound } from './starter-files.js';

export interface InitOptions {
  readonly from?: Beginning;
  readonly dry?: boolean;
}

/** Where Drizzle keeps a table's columns, by the names of their properties. */
const COLUMNS = Symbol.for('drizzle:Columns');

/** The tables that a module exports, with the names of their columns. */
const tablesOf = async (folder: string, { schema }: DrizzleFound): Promise<readonly TableFound[]> => {
  const { createJiti } = await import('jiti');
  let loaded: Readonly<Record<string, unknown>>;
  try {
    loaded = await createJiti(join(folder, CONFIG_NAME)).import(join(folder, schema));
  } catch (error) {
    throw new Mistake(
      `${schema} could not be loaded: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  // Modules hand out names by the alphabet: people have put the first table first.
  const text = readFileSync(join(folder, schema), 'utf8');
  const place = (name: string): number => text.search(new RegExp(`\\b${name}\\b`));
  const exported = Object.entries(loaded).sort(([one], [other]) => place(one) - place(other));
  return exported.flatMap(([name, value]) => {
    if (typeof value !== 'object' || value === null || !(COLUMNS in value)) return [];
    const columns = Object.keys((value as { readonly [COLUMNS]: object })[COLUMNS]);
    return [{ name, columns, secret: columns.filter(seemsSecret) }];
  });
};

const chosen = ({ drizzle, database }: ProjectFound, from: Beginning | undefined): Beginning => {
  const found = drizzle !== null ? 'drizzle' : database !== null ? 'database' : 'nothing';
  if (from === undefined) return found;
  if (from === 'drizzle' && drizzle === null)
    throw new Mistake('No file was found in which tables of Drizzle are declared.');
  if (from === 'database' && database === null)
    throw new Mistake(
      "No database's address was found: set DATABASE_URL, or use gribo scan <address> --start.",
    );
  return from;
};

const NEEDED: Readonly<Record<Beginning, readonly string[]>> = {
  drizzle: ['gribo', '@gribo/drizzle', '@gribo/http'],
  database: ['gribo', '@gribo/sql', '@gribo/http', 'kysely'],
  nothing: ['gribo', '@gribo/http'],
};

const DRIVERS: readonly (readonly [RegExp, string])[] = [
  [/^postgres/, 'pg'],
  [/^(?:mysql|mariadb)/, 'mysql2'],
  [/^(?:sqlite|file)/, 'better-sqlite3'],
];

/** The packages that are needed and are not in package.json. */
const missingOf = ({ packages, database }: ProjectFound, from: Beginning): readonly string[] => {
  const driver = DRIVERS.find(([way]) => from === 'database' && database !== null && way.test(database.url));
  const wanted = driver === undefined ? NEEDED[from] : [...NEEDED[from], driver[1]];
  return wanted.filter((name) => !packages.has(name));
};

const sayNext = (found: ProjectFound, from: Beginning, screen: Screen): void => {
  const missing = missingOf(found, from);
  const lines = [
    ...(missing.length === 0 ? [] : [[`npm install ${missing.join(' ')}`, 'what it is written with']]),
    ...(found.packages.has('@gribo/cli')
      ? []
      : [['npm install --save-dev @gribo/cli', 'this command, for everybody here']]),
    ['npx gribo', 'what there is, and what to do next'],
    ['npx gribo serve --samples', 'the API and its board, on made-up rows'],
  ];
  const width = Math.max(...lines.map(([what = '']) => what.length));
  screen.print(`\n${screen.colours.bold('Next')}`);
  for (const [what = '', why = ''] of lines)
    screen.print(`  ${screen.colours.cyan(what.padEnd(width))}  ${why}`);
};

const filesFor = async (folder: string, found: ProjectFound, from: Beginning) => {
  if (from !== 'drizzle' || found.drizzle === null) return emptyFiles();
  const [first, ...others] = await tablesOf(folder, found.drizzle);
  if (first === undefined) throw new Mistake(`${found.drizzle.schema} exports no table.`);
  return drizzleFiles(found.drizzle, [first, ...others]);
};

const FOUND: Readonly<Record<Beginning, (found: ProjectFound) => string>> = {
  drizzle: ({ drizzle }) => `Tables of Drizzle in ${drizzle?.schema}.`,
  database: ({ database }) => `A database: ${database?.from}.`,
  nothing: () => 'Nothing to begin with was found: a model of one entity, to write on from.',
};

/**
 * Writes a model, a first API and a configuration into a project, from what it finds there.
 *
 * @throws {Mistake} where there is no project, or it has a configuration already
 */
export const init = async (options: InitOptions, screen: Screen): Promise<void> => {
  const folder = process.cwd();
  const found = findProject(folder);
  const from = chosen(found, options.from);
  if (existsSync(join(folder, CONFIG_NAME)))
    throw new Mistake(`${CONFIG_NAME} is here already: gribo says what there is.`);
  screen.print(FOUND[from](found));
  if (from === 'database' && found.database !== null) {
    if (options.dry === true) screen.print('gribo scan --start would read it.');
    else await scanDatabase(found.database.url, { start: true }, screen);
    return sayNext(found, from, screen);
  }
  const files = await filesFor(folder, found, from);
  const taken = [...files.keys()].filter((path) => existsSync(join(folder, path)));
  if (taken.length > 0) throw new Mistake(`${taken.join(', ')} is there already: nothing was written.`);
  for (const [path, text] of files) {
    screen.print(
      options.dry === true ? `\n${screen.colours.bold(path)}\n${text}` : `  ${screen.colours.bold(path)}`,
    );
  }
  if (options.dry !== true)
    await writeWhole([...files].map(([path, text]) => ({ path: join(folder, path), text })));
  sayNext(found, from, screen);
};
