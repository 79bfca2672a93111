import type { ColumnType } from 'gribo/kit';
import { sqlKind } from '../kinds/kinds.js';
import { quoted } from './quoted.js';
import type { ModelColumn, ModelEntity, ModelLink, ScannedModel } from './scanned-model.js';

const snakeCase = (name: string): string =>
  name
    .replace(/([a-z\d])([A-Z])/g, '$1_$2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1_$2')
    .toLowerCase();

const typeSource = (type: ColumnType): string => sqlKind(type).source(type, quoted);

/** Who makes the value where a change does not: null needs nobody. */
const madeBy = ({ generated, hasDefault, nullable }: ModelColumn['column']): string => {
  if (generated) return '.generated()';
  return hasDefault && !nullable ? '.defaulted()' : '';
};

const columnLines = ({ name, column, key, unique, isSecret }: ModelColumn): string[] => {
  const source = [
    typeSource(column.type),
    key ? '.key()' : '',
    madeBy(column),
    unique ? '.unique()' : '',
    column.nullable ? '.nullable()' : '',
    snakeCase(name) === column.name ? '' : `.stored(${quoted(column.name)})`,
    isSecret ? ".sealed('undecided')" : '',
  ].join('');
  return [
    ...(isSecret
      ? ['  // Sealed because of its name. Decide: say why it is sealed, or let everybody see it.']
      : []),
    ...(column.isGuessed
      ? [`  // The database calls it ${column.said.replaceAll(/\s+/g, ' ')}; text is a guess.`]
      : []),
    `  ${name}: ${source},`,
  ];
};

const entityLines = ({ name, table, columns }: ModelEntity): string[] => {
  const options = snakeCase(name) === table ? '' : `, { stored: ${quoted(table)} }`;
  return [`const ${name} = entity(${quoted(name)}, {`, ...columns.flatMap(columnLines), `}${options});`];
};

const listed = (names: readonly string[]): string =>
  names.length === 1 ? quoted(names[0] ?? '') : `[${names.map(quoted).join(', ')}]`;

const linkSource = (link: ModelLink): string => {
  const target = quoted(link.target);
  switch (link.kind) {
    case 'toOne':
      return `toOne(${target}, ${listed(link.via)})`;
    case 'toMany':
      return `toMany(${target}, ${listed(link.via)})`;
    case 'through':
      return `toMany(${target}, { through: ${quoted(link.through)}, from: ${listed(link.from)}, to: ${listed(link.to)} })`;
    default:
      return link satisfies never;
  }
};

const linkLines = ({ name, links }: ModelEntity): string[] =>
  links.length === 0
    ? []
    : [`    ${name}: {`, ...links.map((link) => `      ${link.name}: ${linkSource(link)},`), '    },'];

const bare = (name: string): string => name.replace('type ', '');

/** What the source uses of the library, in the order of the alphabet. */
const importsOf = (entities: readonly ModelEntity[]): readonly string[] => {
  const used = new Set(['entity', 'model', 'type Model', 'type ModelOf']);
  for (const { columns, links } of entities) {
    for (const { column } of columns) used.add(column.type.kind);
    for (const { kind } of links) used.add(kind === 'toOne' ? 'toOne' : 'toMany');
  }
  return [...used].sort((a, b) => bare(a).localeCompare(bare(b), 'en'));
};

/** The model of a database as TypeScript that compiles, the same text for the same database. */
export const modelSource = ({ entities, leftOut }: ScannedModel): string => {
  const linked = entities.flatMap(linkLines);
  return [
    `import { ${importsOf(entities).join(', ')} } from 'gribo';`,
    '',
    ...leftOut.map(({ table, why }) => `// Left out: ${table.replaceAll(/\s+/g, ' ')}, for ${why}.`),
    ...(leftOut.length > 0 ? [''] : []),
    ...entities.flatMap((entity) => [...entityLines(entity), '']),
    'const tables = model(',
    `  { ${entities.map(({ name }) => name).join(', ')} },`,
    ...(linked.length === 0 ? ['  {},'] : ['  {', ...linked, '  },']),
    ');',
    '',
    '/** The name of the model in types: hovers, messages and declarations say it instead of every table. */',
    'export interface Tables extends ModelOf<typeof tables> {}',
    '',
    'export const db: Model<Tables> = tables;',
    '',
  ].join('\n');
};
