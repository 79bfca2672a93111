import { AssertionError } from 'node:assert';
import { GriboError } from 'gribo';
import { type ColumnPlan, didYouMean, type LinkedEntities } from 'gribo/kit';

export interface SealedOptions {
  /** Columns that may be in it, as `vessel.masterPhone`: those unsealed for whoever the text is for. Default: none. */
  readonly except?: readonly string[];
}

/** A sealed value that was found, by where it is stored. */
interface Leak {
  readonly column: string;
  readonly row: number;
  readonly at: number;
}

/** Shorter texts are found by chance. */
const SHORTEST = 4;

/** The texts that a value may be found as in a response. */
const textsOf = (value: unknown): readonly string[] => {
  if (typeof value === 'string') return [value, JSON.stringify(value).slice(1, -1)];
  if (typeof value === 'number' || typeof value === 'bigint') return [String(value)];
  if (value instanceof Date) return [value.toISOString().slice(0, 19)];
  if (value instanceof Uint8Array) return [Buffer.from(value).toString('base64')];
  if (typeof value === 'object' && value !== null) return Object.values(value).flatMap(textsOf);
  return [];
};

const heldIn = (row: object, { name }: ColumnPlan): unknown => (row as Record<string, unknown>)[name];

const findingsIn = (
  text: string,
  { column, entity }: PlacedColumn,
  rows: readonly object[],
  open: string,
): { readonly looked: number; readonly leaks: readonly Leak[] } => {
  let looked = 0;
  const leaks: Leak[] = [];
  for (const [row, values] of rows.entries()) {
    const texts = textsOf(heldIn(values, column));
    const wanted = texts.filter((one) => one.length >= SHORTEST && !open.includes(one));
    if (wanted.length > 0) looked += 1;
    const at = Math.max(-1, ...wanted.map((one) => text.indexOf(one)));
    if (at !== -1) leaks.push({ column: `${entity}.${column.name}`, row, at });
  }
  return { looked, leaks };
};

interface PlacedColumn {
  readonly entity: string;
  readonly column: ColumnPlan;
}

const columnsOf = (model: LinkedEntities): readonly PlacedColumn[] =>
  Object.values(model).flatMap(({ entity }) =>
    entity.columns.map((column) => ({ entity: entity.name, column })),
  );

/**
 * Fails where a text has the value of a sealed column in it, whichever way it got there: a response, a log, a file.
 *
 * @param text what left
 * @param model the model
 * @param rows the rows that are stored, by the names of their entities
 * @param options `except`: columns that may be in it
 * @throws {AssertionError} that names the column, the row and the place, and not the value
 * @throws {GriboError} `UNKNOWN` where `except` names no column, `MISUSE` where no row holds a sealed value of four letters or more: the test could not fail
 * @example
 * assertNothingSealed(await response.text(), db, rows);
 */
export const assertNothingSealed = (
  text: string,
  model: LinkedEntities,
  rows: Readonly<Record<string, Iterable<object>>>,
  { except = [] }: SealedOptions = {},
): void => {
  const columns = columnsOf(model);
  const names = columns.map(({ entity, column }) => `${entity}.${column.name}`);
  for (const name of except)
    if (!names.includes(name))
      throw new GriboError('UNKNOWN', 'except', `there is no column "${name}".${didYouMean(name, names)}`);
  const rowsOf = ({ entity }: PlacedColumn): readonly object[] => [...(rows[entity] ?? [])];
  const isOpen = ({ entity, column }: PlacedColumn): boolean =>
    column.sealed === null || except.includes(`${entity}.${column.name}`);
  // A text that stands in an open column too, or in a part of its text, tells nothing.
  const open = columns
    .filter(isOpen)
    .flatMap((placed) => rowsOf(placed).flatMap((row) => textsOf(heldIn(row, placed.column))))
    .join('\n');
  const found = columns
    .filter((placed) => !isOpen(placed))
    .map((placed) => findingsIn(text, placed, rowsOf(placed), open));
  if (found.every(({ looked }) => looked === 0))
    throw new GriboError(
      'MISUSE',
      'rows',
      'no row holds a sealed value of four letters or more: there is nothing to look for',
    );
  const leaks = found.flatMap((one) => one.leaks);
  if (leaks.length === 0) return;
  const told = leaks
    .slice(0, 10)
    .map(({ column, row, at }) => `+ ${column} of row ${row + 1}, at character ${at + 1}`);
  const more = leaks.length > told.length ? [`  … and ${leaks.length - told.length} more`] : [];
  throw new AssertionError({
    message: ['What is sealed is in the text.', ...told, ...more].join('\n'),
    stackStartFn: assertNothingSealed,
    operator: 'fail',
  });
};
