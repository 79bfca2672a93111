import { convert } from '../plan/conversion.js';
import { countName, counts } from '../plan/count-name.js';
import type { ValueNode } from '../plan/declared.js';
import type { ColumnPlan, LinkPlan } from '../plan/entity-plan.js';
import type { ListSelection } from '../plan/filter.js';
import { sealedLabels } from '../plan/sealed-labels.js';
import { type Accept, accepting } from '../values/accept.js';
import { nameOfType } from '../values/kinds.js';
import { Misfit } from '../values/misfit.js';
import { selectRows } from './select-rows.js';

/** A row as the runtime sees it: whatever object the caller loaded. */
export type LooseRow = Readonly<Record<PropertyKey, unknown>>;

export type Read = (row: LooseRow) => unknown;

const isRow = (value: unknown): value is LooseRow => typeof value === 'object' && value !== null;

/** The value if it is a row. @throws {Misfit} otherwise */
export const asRow = (value: unknown): LooseRow => {
  if (isRow(value)) return value;
  throw new Misfit('ROW_TYPE', 'a row', value);
};

/** The row at the end of to-one links; null where there is none. */
export const follow = (row: LooseRow, path: readonly LinkPlan[]): LooseRow | null => {
  let at: LooseRow = row;
  for (const link of path) {
    const next = at[link.name];
    if (next === null && link.nullable) return null;
    if (next === undefined) throw notLoaded(link);
    if (!isRow(next)) {
      const code = next === null ? 'ROW_NULL' : 'ROW_TYPE';
      throw new Misfit(code, `a row of ${link.target.name} in "${link.name}"`, next);
    }
    at = next;
  }
  return at;
};

const notLoaded = (link: LinkPlan): Misfit => {
  const many = link.kind === 'toMany';
  const what = many ? `the rows of link "${link.name}"` : `the row of link "${link.name}"`;
  const load = `: load ${link.owner}.${link.name}${many ? '' : ' (null where there is none)'}; loadPlan(body) lists all that is needed`;
  return new Misfit('ROW_MISSING', what, undefined, load);
};

/** The rows behind a to-many link. Drivers hand over array-likes and iterables too. */
export const rowsOf = (row: LooseRow, link: LinkPlan, selection: ListSelection): ArrayLike<unknown> => {
  const loaded = row[link.name];
  if (loaded === undefined) throw notLoaded(link);
  const rows = arrayLike(loaded);
  if (rows === null) throw new Misfit('ROW_TYPE', `an array of rows in "${link.name}"`, loaded);
  return selectRows(rows, selection, readAt);
};

/** Reads a column of one loaded row of a list; what is wrong with it says which. */
const readAt = (column: ColumnPlan, row: unknown, index: number): unknown => {
  try {
    return readColumn(column, accepting(column.type), asRow(row));
  } catch (error) {
    throw error instanceof Misfit ? error.inside(`.${column.name}`).inside(`[${index}]`) : error;
  }
};

/** An array, something like one, or anything that can be iterated; null for the rest. */
export const arrayLike = (value: unknown): ArrayLike<unknown> | null => {
  if (Array.isArray(value)) return value;
  if (typeof value !== 'object' || value === null) return null;
  const { length } = value as { length?: unknown };
  if (Number.isSafeInteger(length) && (length as number) >= 0) return value as ArrayLike<unknown>;
  return Symbol.iterator in value ? Array.from(value as Iterable<unknown>) : null;
};

const property = (column: ColumnPlan, row: LooseRow): unknown => {
  if (column.via === null) return row[column.name];
  return guarded(`column "${column.name}"`, column.sealed === null, () => column.via?.(row));
};

/** What a user's function returns; what it throws becomes a misfit that names it. */
const guarded = (name: string, showsCause: boolean, call: () => unknown): unknown => {
  try {
    return call();
  } catch (cause) {
    if (!showsCause)
      throw new Misfit('ROW_FUNCTION', `${name} to be computed`, undefined, ': its function threw');
    const reason = cause instanceof Error ? cause.message : String(cause);
    const options = { cause };
    throw new Misfit(
      'ROW_FUNCTION',
      `${name} to be computed`,
      undefined,
      `: its function threw "${reason}"`,
      options,
    );
  }
};

/** The accepted value of a column; null only where the column may be null. */
const readColumn = (column: ColumnPlan, accept: Accept, row: LooseRow): unknown => {
  const value = property(column, row);
  if (value === null && column.nullable) return null;
  if (value === undefined) {
    const hint = `: the row has no "${column.name}"; load it, or set it to null where it has none`;
    throw new Misfit('ROW_MISSING', nameOfType(column.type), undefined, hint);
  }
  if (value === null && column.type.kind !== 'json')
    throw new Misfit('ROW_NULL', nameOfType(column.type), null);
  return accept(value);
};

const counted = (row: LooseRow, link: LinkPlan, selection: ListSelection): number => {
  const known = (row[counts] as Readonly<Record<string, unknown>> | undefined)?.[countName(link, selection)];
  if (known === undefined) return rowsOf(row, link, selection).length;
  if (Number.isInteger(known) && (known as number) >= 0) return known as number;
  throw new Misfit('ROW_TYPE', `the count of "${link.name}"`, known);
};

/** Reads what user functions are given: every input, checked. */
export const readAll = (inputs: readonly ValueNode[]): ((row: LooseRow) => never[]) => {
  const reads = inputs.map(readValue);
  // The types of a function's arguments were checked where it was declared.
  return (row) => reads.map((read) => read(row)) as never[];
};

const readDerived = (node: Extract<ValueNode, { kind: 'derived' }>): Read => {
  const inputs = readAll(node.inputs);
  const accept = accepting(node.type);
  const open = sealedLabels(node).length === 0;
  return (row) => {
    if (node.guard.length > 0 && follow(row, node.guard) === null) return null;
    const values = inputs(row);
    const value = guarded('a derived value', open, () => node.compute(...values));
    if (value === null && node.nullable) return null;
    return accept(value);
  };
};

const readConverted = (node: Extract<ValueNode, { kind: 'converted' }>): Read => {
  const input = readValue(node.input);
  const { conversion } = node;
  const accept = accepting(conversion.yields);
  return (row) => {
    const value = input(row);
    if (value === null) return null;
    const changed = convert(conversion, value);
    // A conversion that cannot show a value yields NaN: say so about the value, not about NaN.
    if (Number.isNaN(changed))
      throw new Misfit('ROW_RANGE', `a value that ${conversion.name} can show`, value);
    return accept(changed);
  };
};

/** Reads and checks the value of a node; null where it may be null and is. */
export const readValue = (node: ValueNode): Read => {
  const read = openRead(node);
  if (sealedLabels(node).length === 0 && !readsSealed(node)) return read;
  return (row) => {
    try {
      return read(row);
    } catch (error) {
      throw error instanceof Misfit ? error.conceal() : error;
    }
  };
};

/** Whether a sealed column is among what the node reads, masked or not. */
const readsSealed = (node: ValueNode): boolean => {
  if (node.kind === 'converted') return readsSealed(node.input);
  if (node.kind === 'derived') return node.inputs.some(readsSealed);
  return node.kind === 'column' && node.column.sealed !== null;
};

const openRead = (node: ValueNode): Read => {
  switch (node.kind) {
    case 'column': {
      const accept = accepting(node.column.type);
      if (node.path.length === 0) return (row) => readColumn(node.column, accept, row);
      return (row) => {
        const at = follow(row, node.path);
        return at === null ? null : readColumn(node.column, accept, at);
      };
    }
    case 'derived':
      return readDerived(node);
    case 'converted':
      return readConverted(node);
    case 'constant':
      return () => node.value;
    case 'count':
      return (row) => {
        const at = follow(row, node.path);
        return at === null ? null : counted(at, node.link, node.selection);
      };
    default:
      return node satisfies never;
  }
};
