import type { ScannedTable } from '../catalogue/database-schema.js';
import { camelCase, freeName, INHERITED, singular } from './names.js';

/** What no entity's variable can be called: words of the language, and what the sources import or declare. */
const RESERVED = new Set(
  [
    'break case catch class const continue debugger default delete do else enum export extends false finally for function',
    'if import in instanceof new null return super switch this throw true try typeof var void while with yield let static await',
    'entity model toOne toMany text integer bigint real decimal bool date time timestamp uuid json bytes oneOf array optional',
    'api collection page shape db office row tables',
    'eval arguments undefined NaN Infinity globalThis implements interface package private protected public async',
    ...INHERITED,
  ].flatMap((words) => words.split(' ')),
);

/** An entity is called after one row; a table that is called so already goes first. */
export const entityNames = (tables: readonly ScannedTable[]): ReadonlyMap<ScannedTable, string> => {
  const names = new Map<ScannedTable, string>();
  const taken = new Set<string>();
  const isSingular = ({ name }: ScannedTable): boolean => singular(camelCase(name)) === camelCase(name);
  const isPlain = ({ name, stored }: ScannedTable): boolean => name === stored;
  const inOrder = [true, false].flatMap((plain) =>
    [true, false].flatMap((single) =>
      tables.filter((table) => isPlain(table) === plain && isSingular(table) === single),
    ),
  );
  for (const table of inOrder) {
    const wanted = [singular(camelCase(table.name)), camelCase(table.name), camelCase(table.stored)];
    const name = freeName(taken, ...wanted.map((word) => (RESERVED.has(word) ? `${word}Row` : word)));
    taken.add(name);
    names.set(table, name);
  }
  return names;
};
