const KINDS = [
  'integer()',
  'text()',
  'text().nullable()',
  'timestamp()',
  "oneOf('a', 'b')",
  'bool()',
  'decimal(12, 2)',
  'date().nullable()',
];

export interface LargeSize {
  readonly entities: number;
  readonly columns: number;
}

const range = (count: number): readonly number[] => Array.from({ length: count }, (_, at) => at);

const entityOf = (at: number, columns: number): string => {
  const lines = range(columns - 2).map((n) => `  c${n}: ${KINDS[n % KINDS.length]},`);
  return `const e${at} = entity('e${at}', {\n  id: integer().key().generated(),\n  nextId: integer().nullable(),\n${lines.join('\n')}\n});`;
};

/** The model of so many entities, each linked to the next one, under a name of its own. */
export const largeModel = ({ entities, columns }: LargeSize): string => {
  const all = range(entities);
  const links = all.map((at) => {
    const next = (at + 1) % entities;
    return `  e${at}: { next: toOne('e${next}', 'nextId'), many: toMany('e${next}', 'nextId') },`;
  });
  return [
    "import { bool, date, decimal, entity, integer, type Model, type ModelOf, model, oneOf, text, timestamp, toMany, toOne } from 'gribo';",
    ...all.map((at) => entityOf(at, columns)),
    `const large = model({ ${all.map((at) => `e${at}`).join(', ')} }, {\n${links.join('\n')}\n});`,
    'export interface Large extends ModelOf<typeof large> {}',
    'export const db: Model<Large> = large;',
  ].join('\n');
};

const bodiesOf = (at: number, columns: number): string => {
  const members = range(columns - 2).map((n) => `c${n}: r.c${n}`);
  const brief = members.slice(0, 6).join(', ');
  return [
    `export const Brief${at} = shape(db.e${at}, (r) => ({ id: r.id, ${brief} }));`,
    `export const Detail${at} = shape(db.e${at}, (r) => ({ id: r.id, ${members.join(', ')} }));`,
    `export const New${at} = input(db.e${at}, (r) => ({ ${members.join(', ')} }));`,
    `export const Edit${at} = amending(New${at}, ({ c0, ...rest }) => rest);`,
  ].join('\n');
};

/** Two shapes and two inputs of every entity, every column in them. */
export const largeBodies = (size: LargeSize): string =>
  [
    "import { amending, input, shape } from 'gribo';",
    "import { db } from './model.js';",
    ...range(size.entities).map((at) => bodiesOf(at, size.columns)),
  ].join('\n');

/** One API of a collection of each entity, with all its operations. */
export const largeApi = ({ entities }: LargeSize): string =>
  [
    "import { api, collection, page } from 'gribo';",
    "import * as bodies from './bodies.js';",
    "import { db } from './model.js';",
    'export const large = api({',
    "  title: 'Large', version: '1.0.0', audiences: ['agent', 'office'],",
    '  endpoints: {',
    ...range(entities).map(
      (at) =>
        `    e${at}: collection('/e${at}', db.e${at}, { list: page(bodies.Brief${at}, { sort: ['id'] }), read: bodies.Detail${at}, create: { takes: bodies.New${at}, returns: bodies.Detail${at} }, replace: { takes: bodies.New${at}, returns: bodies.Detail${at} }, amend: { takes: bodies.Edit${at}, returns: bodies.Detail${at} }, remove: true, sort: ['c1'] }),`,
    ),
    '  },',
    '});',
  ].join('\n');
