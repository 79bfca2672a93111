import { plural } from './names.js';
import { quoted } from './quoted.js';
import type { ModelEntity, ScannedModel } from './scanned-model.js';

const capital = (name: string): string => (name[0] ?? '').toUpperCase() + name.slice(1);

/** `portCall` → `/port-calls` */
const pathOf = (name: string): string =>
  `/${plural(name.replace(/([a-z\d])([A-Z])/g, '$1-$2').toLowerCase())}`;

const shapeLines = ({ name, columns, about }: ModelEntity): string[] => [
  `const ${capital(name)} = shape(`,
  `  db.${name},`,
  '  (row) => ({',
  ...columns.filter(({ isSecret }) => !isSecret).map((column) => `    ${column.name}: row.${column.name},`),
  '  }),',
  `  { name: ${quoted(capital(name))}${about === null ? '' : `, about: ${quoted(about)}`} },`,
  ');',
  '',
];

const collectionLine = ({ name }: ModelEntity): string =>
  `    ${name}: collection(${quoted(pathOf(name))}, db.${name}, { list: page(${capital(name)}, { size: 20 }), read: ${capital(name)} }),`;

/** A first API over a scanned model: a page and one row of every entity, with every column that is not sealed. */
export const apiSource = ({ entities }: ScannedModel): string =>
  [
    "import { api, collection, page, shape } from 'gribo';",
    "import { db } from './model.js';",
    '',
    '// Drafted from the database: rename, drop and nest until the responses are those you want to send.',
    '',
    ...entities.flatMap(shapeLines),
    'export const office = api({',
    "  title: 'My API',",
    "  version: '0.1.0',",
    '  endpoints: {',
    ...entities.map(collectionLine),
    '  },',
    '});',
    '',
  ].join('\n');
