import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Mistake } from '../screen/mistake.js';

/** A file in which tables of Drizzle's are declared, and one that opens a connection, as they are imported from `gribo/`. */
export interface DrizzleFound {
  readonly schema: string;
  /** The module and the name that it exports the connection under; null: none was found. */
  readonly connection: { readonly file: string; readonly name: string } | null;
}

/** What a project has that Gribo can begin with. */
export interface ProjectFound {
  readonly drizzle: DrizzleFound | null;
  /** A database's address, and where it stands. */
  readonly database: { readonly url: string; readonly from: string } | null;
  /** The packages that the project has. */
  readonly packages: ReadonlySet<string>;
}

const SKIPPED = new Set(['node_modules', 'dist', 'build', 'out', 'coverage', 'generated', 'migrations']);
const DEEPEST = 4;
const MOST_FILES = 3_000;

/** The sources of a project, without what is built or installed. */
const sourcesIn = (folder: string): readonly string[] => {
  const found: string[] = [];
  const walk = (below: string, depth: number): void => {
    if (depth > DEEPEST || found.length > MOST_FILES) return;
    for (const entry of readdirSync(join(folder, below), { withFileTypes: true })) {
      if (entry.name.startsWith('.') || SKIPPED.has(entry.name)) continue;
      const path = below === '' ? entry.name : `${below}/${entry.name}`;
      if (entry.isDirectory()) walk(path, depth + 1);
      else if (/(?<!\.d|\.test|\.spec)\.m?ts$/.test(entry.name)) found.push(path);
    }
  };
  walk('', 0);
  return found;
};

const packagesOf = (folder: string): ReadonlySet<string> => {
  const path = join(folder, 'package.json');
  if (!existsSync(path))
    throw new Mistake('There is no package.json here: go to the project, or make one with npm init.');
  const { dependencies = {}, devDependencies = {} } = JSON.parse(readFileSync(path, 'utf8')) as {
    readonly dependencies?: object;
    readonly devDependencies?: object;
  };
  return new Set([...Object.keys(dependencies), ...Object.keys(devDependencies)]);
};

const TABLE = /=\s*(?:pg|mysql|sqlite)Table\(/;
const CONNECTION = /export\s+const\s+(\w+)\s*=\s*(?:await\s+)?drizzle\(/;

const drizzleIn = (folder: string): DrizzleFound | null => {
  const sources = sourcesIn(folder).map((file) => ({ file, text: readFileSync(join(folder, file), 'utf8') }));
  const drizzled = sources.filter(({ text }) => text.includes('drizzle-orm'));
  const tables = drizzled.filter(({ text }) => TABLE.test(text));
  // Where tables stand in several files, one that hands all of them on is the schema.
  const index = sources.find(
    ({ file, text }) => /schema\/index\.m?ts$/.test(file) && text.includes('export *'),
  );
  const schema = tables.length > 1 && index !== undefined ? index : tables[0];
  if (schema === undefined) return null;
  const opened = drizzled.flatMap(({ file, text }) => {
    const [, name] = CONNECTION.exec(text) ?? [];
    return name === undefined ? [] : [{ file, name }];
  });
  return { schema: schema.file, connection: opened[0] ?? null };
};

/** An address in the environment, or in the file that many programs read it from. */
const databaseIn = (folder: string): ProjectFound['database'] => {
  const isAddress = (text: string | undefined): text is string =>
    text !== undefined && /^(?:postgres(?:ql)?|mysql|mariadb|sqlite|file):/.test(text);
  const said = process.env['DATABASE_URL'];
  if (isAddress(said)) return { url: said, from: 'DATABASE_URL of the environment' };
  const file = join(folder, '.env');
  if (!existsSync(file)) return null;
  const [, url] =
    /^\s*(?:export\s+)?DATABASE_URL\s*=\s*["']?([^"'\s]+)/m.exec(readFileSync(file, 'utf8')) ?? [];
  return isAddress(url) ? { url, from: 'DATABASE_URL in .env' } : null;
};

/** Looks for what Gribo can begin with. @throws {Mistake} where there is no project */
export const findProject = (folder: string): ProjectFound => ({
  packages: packagesOf(folder),
  drizzle: drizzleIn(folder),
  database: databaseIn(folder),
});
