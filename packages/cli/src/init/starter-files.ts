import { UNDECIDED } from 'gribo/kit';
import { key, quoted, reach } from '../draft/names.js';
import type { DrizzleFound } from './find-project.js';

/** A table of a schema, so far as a first shape needs it. */
export interface TableFound {
  readonly name: string;
  readonly columns: readonly string[];
  /** The columns that look like secrets: sealed until somebody decides. */
  readonly secret: readonly string[];
}

/** A module as others import it, from the folder `gribo`. */
const imported = (file: string): string => quoted(`../${file.replace(/\.(m?)ts$/, '.$1js')}`);

const sealedLines = (tables: readonly TableFound[]): readonly string[] => {
  const some = tables.filter(({ secret }) => secret.length > 0);
  if (some.length === 0) return ['const model = modelFrom(schema);'];
  return [
    'const model = modelFrom(schema, {',
    '  // Sealed because of their names. Decide: say why they are sealed, or let everybody see them.',
    ...some.map(
      ({ name, secret }) =>
        `  ${key(name)}: (row) => ({ ${secret.map((column) => `${key(column)}: ${reach('row', column)}.sealed(${quoted(UNDECIDED)})`).join(', ')} }),`,
    ),
    '});',
  ];
};

const nameOf = (table: string): string =>
  `${table.charAt(0).toUpperCase()}${table.slice(1)}Line`.replaceAll(/[^\w$]/g, '');

/** A model of Drizzle's tables, and an API with a shape for the first of them. */
export const drizzleFiles = (
  { schema, connection }: DrizzleFound,
  tables: readonly [TableFound, ...TableFound[]],
): ReadonlyMap<string, string> => {
  const [first] = tables;
  const shown = first.columns.filter((column) => !first.secret.includes(column));
  const shape = nameOf(first.name);
  const model = [
    "import { modelFrom } from '@gribo/drizzle';",
    "import type { Model, ModelOf } from 'gribo';",
    `import * as schema from ${imported(schema)};`,
    '',
    ...sealedLines(tables),
    'interface Office extends ModelOf<typeof model> {}',
    '',
    'export const db: Model<Office> = model;',
    '',
  ];
  const api = [
    "import { api, collection, page, shape } from 'gribo';",
    "import { db } from './model.js';",
    '',
    '// Every column is listed: keep what clients need, and delete the rest.',
    `export const ${shape} = shape(`,
    `  ${reach('db', first.name)},`,
    '  (row) => ({',
    ...shown.map((column) => `    ${key(column)}: ${reach('row', column)},`),
    '  }),',
    `  { name: ${quoted(shape)} },`,
    ');',
    '',
    'export const office = api({',
    "  title: 'Office',",
    "  version: '0.1.0',",
    '  endpoints: {',
    `    ${key(first.name)}: collection(${quoted(`/${first.name}`)}, ${reach('db', first.name)}, { list: page(${shape}), read: ${shape} }),`,
    '  },',
    '});',
    '',
  ];
  const config = [
    "import type { GriboConfig } from '@gribo/cli';",
    ...(connection === null ? [] : ["import { drizzleStore } from '@gribo/drizzle';"]),
    ...(connection === null ? ["import { memoryStore } from 'gribo';"] : []),
    "import { office } from './gribo/api.js';",
    "import { db } from './gribo/model.js';",
    '',
    'export default {',
    '  api: office,',
    '  model: db,',
    connection === null
      ? '  // No connection was found: drizzleStore(db, connection) answers from the database.\n  store: () => memoryStore(db),'
      : `  store: async () => {\n    const { ${connection.name}: connection } = await import(${quoted(`./${connection.file.replace(/\.(m?)ts$/, '.$1js')}`)});\n    return drizzleStore(db, connection);\n  },`,
    '} satisfies GriboConfig;',
    '',
  ];
  return new Map([
    ['gribo/model.ts', model.join('\n')],
    ['gribo/api.ts', api.join('\n')],
    ['gribo.config.ts', config.join('\n')],
  ]);
};

/** A model of one entity to write on from, where nothing was found to begin with. */
export const emptyFiles = (): ReadonlyMap<string, string> =>
  new Map([
    [
      'gribo/model.ts',
      `import { entity, integer, type Model, type ModelOf, model, text, timestamp } from 'gribo';

// What is stored: an entity for each table, its columns under the names that your rows have.
const tables = model(
  {
    note: entity('note', {
      id: integer().key().generated(),
      title: text({ min: 1, max: 120 }),
      body: text(),
      author: text(),
      authorEmail: text().sealed('personal'), // leaves nowhere until it is unsealed for an audience
      written: timestamp(),
    }),
  },
  {},
);
interface Office extends ModelOf<typeof tables> {}

export const db: Model<Office> = tables;
`,
    ],
    [
      'gribo/api.ts',
      `import { api, at, collection, input, page, shape, shorten } from 'gribo';
import { db } from './model.js';

// What goes out: a literal that looks like the JSON it makes.
export const Note = shape(
  db.note,
  (n) => ({
    id: n.id,
    title: n.title,
    body: at({ list: shorten(n.body, 80), otherwise: n.body }),
    by: n.author,
    written: n.written,
  }),
  { name: 'Note' },
);

// What comes in.
export const NewNote = input(
  db.note,
  ({ title, body, author, authorEmail, written }) => ({ title, body, by: author, authorEmail, written }),
  { name: 'NewNote' },
);

export const office = api({
  title: 'Office',
  version: '0.1.0',
  endpoints: {
    notes: collection('/notes', db.note, {
      list: page(Note),
      read: Note,
      create: { takes: NewNote, returns: Note },
      remove: true,
    }),
  },
});
`,
    ],
    [
      'gribo.config.ts',
      `import type { GriboConfig } from '@gribo/cli';
import { memoryStore } from 'gribo';
import { office } from './gribo/api.js';
import { db } from './gribo/model.js';

export default {
  api: office,
  model: db,
  store: () => memoryStore(db), // sqlStore(db, await openDatabase(address)) of @gribo/sql on a database
} satisfies GriboConfig;
`,
    ],
  ]);
