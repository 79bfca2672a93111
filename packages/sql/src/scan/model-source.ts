import { type ColumnType, UNDECIDED } from 'gribo/kit';
import { isUnstated } from '../catalogue/type-of.js';
import { sqlKind } from '../kinds/kinds.js';
import { quoted } from './quoted.js';
import type { ModelColumn, ModelEntity, ModelLink, ModelPair, ScannedModel } from './scanned-model.js';

const snakeCase = (name: string): string =>
  name
    .replace(/([a-z\d])([A-Z])/g, '$1_$2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1_$2')
    .toLowerCase();

const typeSource = (type: ColumnType): string => sqlKind(type).source(type, quoted);

/** Who makes the value where a change does not. */
const madeBy = ({ generated, hasDefault }: ModelColumn['column']): string => {
  if (generated) return '.generated()';
  return hasDefault ? '.defaulted()' : '';
};

/** A text in one line of a comment. */
const inComment = (text: string): string => text.replaceAll(/\s+/g, ' ').trim();

const columnLines = ({ name, column, key, unique, isSecret }: ModelColumn): string[] => {
  const source = [
    typeSource(column.type),
    key ? '.key()' : '',
    madeBy(column),
    unique && !key ? '.unique()' : '',
    column.nullable ? '.nullable()' : '',
    snakeCase(name) === column.name ? '' : `.stored(${quoted(column.name)})`,
    isSecret ? `.sealed('${UNDECIDED}')` : '',
    column.about === null ? '' : `.about(${quoted(column.about)})`,
  ].join('');
  return [
    ...(isSecret
      ? ['  // Sealed because of its name. Decide: say why it is sealed, or let everybody see it.']
      : []),
    ...(column.isGuessed
      ? [`  // The database calls it ${inComment(column.said)}; ${column.type.kind} is a guess.`]
      : []),
    ...(isUnstated(column.type) ? ['  // The database does not say how many digits it has: say it.'] : []),
    `  ${name}: ${source},`,
  ];
};

const optionsOf = ({ name, table, readOnly }: ModelEntity): string => {
  const options = [
    ...(snakeCase(name) === table ? [] : [`stored: ${quoted(table)}`]),
    ...(readOnly ? ['readOnly: true'] : []),
  ];
  return options.length === 0 ? '' : `, { ${options.join(', ')} }`;
};

const entityLines = (entity: ModelEntity): string[] => [
  ...(entity.about === null ? [] : [`// ${inComment(entity.about)}`]),
  ...(entity.isKeyProposed
    ? ['// A view says no key: this one is proposed. Name the columns that tell its rows apart.']
    : []),
  ...entity.unsaid.map(({ what, why }) => `// Left out: ${inComment(what)}, for ${why}.`),
  `const ${entity.name} = entity(${quoted(entity.name)}, {`,
  ...entity.columns.flatMap(columnLines),
  `}${optionsOf(entity)});`,
];

const IDENTIFIER = /^[\p{L}_$][\p{L}\p{N}_$]*$/u;

/** Columns in the order of the key that they hold, or pairs. */
const viaSource = (pairs: readonly ModelPair[], isKey: boolean): string => {
  const named = (name: string): string => (IDENTIFIER.test(name) ? name : quoted(name));
  if (!isKey) return `{ ${pairs.map(([holding, held]) => `${named(holding)}: ${quoted(held)}`).join(', ')} }`;
  const [only, ...others] = pairs.map(([holding]) => quoted(holding));
  return others.length === 0 ? (only ?? '') : `[${[only, ...others].join(', ')}]`;
};

const linkSource = (link: ModelLink): string => {
  const target = quoted(link.target);
  switch (link.kind) {
    case 'toOne': {
      const optional = link.optional ? ', { optional: true }' : '';
      return `toOne(${target}, ${viaSource(link.pairs, link.isKey)}${optional})`;
    }
    case 'toMany':
      return `toMany(${target}, ${viaSource(link.pairs, link.isKey)})`;
    case 'through': {
      const [from, to] = [viaSource(link.from, link.isKey), viaSource(link.to, link.isKey)];
      return `toMany(${target}, { through: ${quoted(link.through)}, from: ${from}, to: ${to} })`;
    }
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
    for (const { column } of columns) {
      used.add(column.type.kind);
      if (column.type.kind === 'array') used.add(column.type.of.kind);
    }
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
    ...leftOut.map(({ table, why }) => `// Left out: ${inComment(table)}, for ${why}.`),
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
