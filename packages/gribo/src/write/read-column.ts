import type { ColumnPlan, LinkPlan } from '../plan/entity-plan.js';
import type { Accept } from '../values/accept.js';
import { nameOfType } from '../values/kinds.js';
import { Misfit } from '../values/misfit.js';

/** A row as the runtime sees it: whatever object the caller loaded. */
export type LooseRow = Readonly<Record<PropertyKey, unknown>>;

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

export const notLoaded = (link: LinkPlan): Misfit => {
  const many = link.kind === 'toMany';
  const what = many ? `the rows of link "${link.name}"` : `the row of link "${link.name}"`;
  const load = `: load ${link.owner}.${link.name}${many ? '' : ' (null where there is none)'}; loadPlan(body) lists all that is needed`;
  return new Misfit('ROW_MISSING', what, undefined, load);
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
export const guarded = (name: string, showsCause: boolean, call: () => unknown): unknown => {
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
export const readColumn = (column: ColumnPlan, accept: Accept, row: LooseRow): unknown => {
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
