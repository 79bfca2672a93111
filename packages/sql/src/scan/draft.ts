import type { ScannedTable } from '../catalogue/database-schema.js';
import { camelCase, freeName, INHERITED, singular } from './names.js';
import type { ModelColumn, ModelLink } from './scanned-model.js';
import { seemsSecret } from './secret.js';

/** An entity while its links are being named. */
export interface Draft {
  readonly name: string;
  readonly table: ScannedTable;
  readonly key: readonly string[];
  readonly isKeyProposed: boolean;
  readonly columns: readonly ModelColumn[];
  readonly taken: Set<string>;
  readonly links: ModelLink[];
  readonly unsaid: { readonly what: string; readonly why: string }[];
}

const heldNames = ({ columns }: ScannedTable): readonly string[] =>
  columns.flatMap(({ name, type }) => (type === null ? [] : [name]));

/** The columns that tell the rows of a table apart, where the database says so: its key, or what is unique in a view. */
const saidKey = (table: ScannedTable): readonly string[] | null => {
  if (table.key.length > 0) return table.key;
  const names = heldNames(table);
  return table.unique.find((some) => some.every((column) => names.includes(column))) ?? null;
};

/** A key by what columns are called. */
const proposedKey = (table: ScannedTable): readonly string[] => {
  const names = heldNames(table);
  const own = new RegExp(`^(?:${singular(camelCase(table.name))})?_?(?:id|key|no|code)$`, 'i');
  const found = names.find((column) => /^id$/i.test(column)) ?? names.find((column) => own.test(column));
  return [found ?? names.find((column) => /id$/i.test(column)) ?? names[0] ?? ''].filter(
    (column) => column !== '',
  );
};

/** The columns of a table with names for them, and what of it the model does not say. */
export const draftOf = (table: ScannedTable, name: string): Draft => {
  const taken = new Set<string>(INHERITED);
  const said = saidKey(table);
  const key = said ?? proposedKey(table);
  const columns = table.columns.flatMap((column): ModelColumn[] => {
    const { type } = column;
    if (type === null) return [];
    const property = freeName(taken, camelCase(column.name));
    taken.add(property);
    const isKey = key.includes(column.name);
    return [
      {
        name: property,
        column: { ...column, type, nullable: column.nullable && !isKey },
        key: isKey,
        unique: table.unique.some((some) => some.length === 1 && some[0] === column.name),
        isSecret: !isKey && type.kind !== 'bool' && seemsSecret(column.name),
      },
    ];
  });
  const unsaid = [
    ...table.columns
      .filter(({ type }) => type === null)
      .map(({ name: column, said, nullable, hasDefault }) => ({
        what: `column ${column} (${said})`,
        why:
          nullable || hasDefault
            ? 'no type holds it: read it by a view that makes text of it'
            : 'no type holds it, and it has to be set: rows are created elsewhere',
      })),
    ...table.checks.map((check) => ({
      what: check,
      why: 'no limit of a column says it: test it where rows come in',
    })),
  ];
  return { name, table, key, isKeyProposed: said === null, columns, taken, links: [], unsaid };
};
