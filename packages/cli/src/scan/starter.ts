import type { ModelEntity, ScannedModel } from '@gribo/sql';

const quoted = (text: string): string => `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'")}'`;

const capital = (name: string): string => (name[0] ?? '').toUpperCase() + name.slice(1);

/** `portCall` → `port-calls` */
const pathOf = (name: string): string =>
  `${name.replace(/([a-z\d])([A-Z])/g, '$1-$2').toLowerCase()}${/[sx]$/.test(name) ? 'es' : 's'}`;

/** What looks secret by its name was sealed by the scan, with this word in the model's source. */
const openColumns = ({ columns }: ModelEntity, sealed: ReadonlySet<string>): readonly string[] =>
  columns.map(({ name }) => name).filter((name) => !sealed.has(name));

/** The columns that a model's source seals, by entity. */
const sealedIn = (source: string): ReadonlyMap<string, ReadonlySet<string>> => {
  const found = new Map<string, Set<string>>();
  let entity = new Set<string>();
  for (const line of source.split('\n')) {
    const [, name] = /^const (\S+) = entity\(/.exec(line) ?? [];
    if (name !== undefined) {
      entity = new Set();
      found.set(name, entity);
    }
    const [, column] = /^ {2}'?([^':]+)'?: .*\.sealed\(/.exec(line) ?? [];
    if (column !== undefined) entity.add(column);
  }
  return found;
};

/** A first API: a page and one row of every entity, with every column that is not sealed. */
export const starterApi = (model: ScannedModel, source: string): string => {
  const sealed = sealedIn(source);
  const shapes = model.entities.flatMap((entity) => [
    `const ${capital(entity.name)} = shape(`,
    `  db.${entity.name},`,
    '  (row) => ({',
    ...openColumns(entity, sealed.get(entity.name) ?? new Set()).map((name) => `    ${name}: row.${name},`),
    '  }),',
    `  { name: ${quoted(capital(entity.name))} },`,
    ');',
    '',
  ]);
  const collections = model.entities.map(
    ({ name }) =>
      `    ${name}: collection(${quoted(`/${pathOf(name)}`)}, db.${name}, { list: page(${capital(name)}, { size: 20 }), read: ${capital(name)} }),`,
  );
  return [
    "import { api, collection, page, shape } from 'gribo';",
    "import { db } from './model.js';",
    '',
    '// Drafted from the database: rename, drop and nest until the responses are those you want to send.',
    '',
    ...shapes,
    'export const office = api({',
    "  title: 'My API',",
    "  version: '0.1.0',",
    '  endpoints: {',
    ...collections,
    '  },',
    '});',
    '',
  ].join('\n');
};

/** A password is not written into a file. */
const hasPassword = (url: string): boolean => /^[a-z]+:\/\/[^/@:]*:[^/@]+@/i.test(url);

/** The configuration that joins the model, the API and the database. */
export const starterConfig = (url: string): string => {
  const address = hasPassword(url)
    ? "process.env['DATABASE_URL'] ?? ''"
    : `process.env['DATABASE_URL'] ?? ${quoted(url)}`;
  return [
    "import type { GriboConfig } from '@gribo/cli';",
    "import { openDatabase, sqlStore } from '@gribo/sql';",
    "import { office } from './gribo/api.js';",
    "import { db } from './gribo/model.js';",
    '',
    'export default {',
    '  api: office,',
    '  model: db,',
    '  names: { db },',
    `  store: async () => sqlStore(db, await openDatabase(${address})),`,
    '} satisfies GriboConfig;',
    '',
  ].join('\n');
};
