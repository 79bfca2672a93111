import type { ColumnType } from 'gribo';
import type { ModelColumn, ModelEntity, ModelLink, ScannedModel } from './scanned-model.js';

/** Names that tell of what not everybody should see. */
const SECRET =
  /pass(?:word|wd|phrase)|secret|token|api_?key|salt|hash$|phone|mobile|e?mail|address|birth|iban|account_no|credit|card|tax_?id|ssn|salary|medical|health|passport|gate_?code|pin(?:_?code)?$/i;

const quoted = (text: string): string =>
  `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'").replaceAll('\n', '\\n')}'`;

/** A name as a property: quoted where it has to be. */
const property = (name: string): string => (/^[\p{L}_$][\p{L}\p{N}_$]*$/u.test(name) ? name : quoted(name));

const snakeCase = (name: string): string =>
  name
    .replace(/([a-z\d])([A-Z])/g, '$1_$2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1_$2')
    .toLowerCase();

const limits = (parts: Readonly<Record<string, number | null>>): string => {
  const set = Object.entries(parts).filter(([, value]) => value !== null);
  return set.length === 0 ? '' : `{ ${set.map(([name, value]) => `${name}: ${value}`).join(', ')} }`;
};

const typeSource = (type: ColumnType): string => {
  switch (type.kind) {
    case 'text':
      return `text(${limits({ max: type.max })})`;
    case 'bytes':
      return `bytes(${limits({ max: type.max })})`;
    case 'decimal':
      return `decimal(${type.precision}, ${type.scale})`;
    case 'oneOf':
      return `oneOf(${type.choices.map(quoted).join(', ')})`;
    case 'json':
      return 'json<unknown>()';
    case 'integer':
    case 'bigint':
    case 'real':
    case 'bool':
    case 'date':
    case 'time':
    case 'timestamp':
    case 'uuid':
      return `${type.kind}()`;
    default:
      return type satisfies never;
  }
};

const columnLines = ({ name, column, key, unique }: ModelColumn): string[] => {
  const isSecret = !key && SECRET.test(column.name);
  const source = [
    typeSource(column.type),
    key ? '.key()' : '',
    column.generated ? '.generated()' : '',
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
    `  ${property(name)}: ${source},`,
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
    : [
        `    ${property(name)}: {`,
        ...links.map((link) => `      ${property(link.name)}: ${linkSource(link)},`),
        '    },',
      ];

/** What the source uses of the library, in the order of the alphabet. */
const importsOf = (entities: readonly ModelEntity[]): readonly string[] => {
  const used = new Set(['entity', 'model']);
  for (const { columns, links } of entities) {
    for (const { column } of columns) used.add(column.type.kind);
    for (const { kind } of links) used.add(kind === 'toOne' ? 'toOne' : 'toMany');
  }
  return [...used].sort();
};

/** The words of the language that no entity's variable can be called. */
const RESERVED = new Set(
  'break case catch class const continue debugger default delete do else enum export extends false finally for function if import in instanceof new null return super switch this throw true try typeof var void while with yield let static await'.split(
    ' ',
  ),
);

/** Entities whose variable would be a word of the language, or hide what is imported, get another name. */
const renamed = (model: ScannedModel): ScannedModel => {
  const used = new Set(importsOf(model.entities));
  const names = new Map(
    model.entities.map(({ name }) => [name, RESERVED.has(name) || used.has(name) ? `${name}Row` : name]),
  );
  const of = (name: string): string => names.get(name) ?? name;
  const entities = model.entities.map((entity) => ({
    ...entity,
    name: of(entity.name),
    links: entity.links.map((link) =>
      link.kind === 'through'
        ? { ...link, target: of(link.target), through: of(link.through) }
        : { ...link, target: of(link.target) },
    ),
  }));
  return { ...model, entities };
};

/** The model of a database as TypeScript that compiles, the same text for the same database. */
export const modelSource = (scanned: ScannedModel): string => {
  const model = renamed(scanned);
  const { entities, leftOut } = model;
  const linked = entities.flatMap(linkLines);
  return [
    `import { ${importsOf(entities).join(', ')} } from 'gribo';`,
    '',
    ...leftOut.map(({ table, why }) => `// Left out: ${table.replaceAll(/\s+/g, ' ')}, for ${why}.`),
    ...(leftOut.length > 0 ? [''] : []),
    ...entities.flatMap((entity) => [...entityLines(entity), '']),
    'export const db = model(',
    `  { ${entities.map(({ name }) => name).join(', ')} },`,
    ...(linked.length === 0 ? ['  {},'] : ['  {', ...linked, '  },']),
    ');',
    '',
  ].join('\n');
};
