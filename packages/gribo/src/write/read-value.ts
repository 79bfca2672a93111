import { columnsRead } from '../plan/columns-read.js';
import type { Figure, ListSelection, RowCondition, RowLook, SettledValue } from '../plan/condition.js';
import { convert } from '../plan/conversion.js';
import type { LinkPlan } from '../plan/entity-plan.js';
import { figures } from '../plan/figures.js';
import { accepting } from '../values/accept.js';
import { Misfit } from '../values/misfit.js';
import { arrayLike, asRow, follow, guarded, type LooseRow, notLoaded, readColumn } from './read-column.js';

/** Facts about the caller by their names, each of its type. */
export type Facts = Readonly<Record<string, unknown>>;

export type Read = (row: LooseRow, facts: Facts) => unknown;

export type Test = (row: LooseRow, facts: Facts) => boolean;

/** The rows behind a to-many link. Drivers hand over array-likes and iterables too. */
export const rowsOf = (
  row: LooseRow,
  link: LinkPlan,
  selection: ListSelection,
  facts: Facts,
): ArrayLike<unknown> => {
  const loaded = row[link.name];
  if (loaded === undefined) throw notLoaded(link);
  const rows = arrayLike(loaded);
  if (rows === null) throw new Misfit('ROW_TYPE', `an array of rows in "${link.name}"`, loaded);
  const { pick, limit } = selection;
  if (pick !== null) return pick(rows, selection, lookWith(facts));
  return limit === null ? rows : Array.prototype.slice.call(rows, 0, limit);
};

const lookWith = (facts: Facts): RowLook => {
  /** What is wrong with a row says which, and where in it. */
  const looking =
    <T>(look: (row: LooseRow, facts: Facts) => T, place: string) =>
    (row: unknown, index: number): T => {
      try {
        return look(asRow(row), facts);
      } catch (error) {
        throw error instanceof Misfit ? error.inside(`[${index}]${place}`) : error;
      }
    };
  return {
    value: (node) => looking(readValue(node), `.${node.column.name}`),
    test: (condition) => looking(readCondition(condition), ''),
  };
};

const counted = (row: LooseRow, link: LinkPlan, selection: ListSelection, facts: Facts): number => {
  const known = (row[figures] as Readonly<Record<string, unknown>> | undefined)?.[link.name + selection.name];
  if (known === undefined) return rowsOf(row, link, selection, facts).length;
  if (Number.isInteger(known) && (known as number) >= 0) return known as number;
  throw new Misfit('ROW_TYPE', `the count of "${link.name}"`, known);
};

/** A figure about rows behind a link: what a store has made, or what is made of rows that are loaded. */
export const figured = (
  row: LooseRow,
  link: LinkPlan,
  selection: ListSelection,
  of: Figure,
  facts: Facts,
): unknown =>
  of.look(
    row,
    { link, selection },
    of,
    () => rowsOf(row, link, selection, facts),
    (other) => readColumn(of.column, accepting(of.column.type), asRow(other)),
  );

/** Reads what user functions are given: every input, checked. */
export const readAll = (inputs: readonly SettledValue[]): ((row: LooseRow, facts: Facts) => never[]) => {
  const reads = inputs.map(readValue);
  // The types of a function's arguments were checked where it was declared.
  return (row, facts) => reads.map((read) => read(row, facts)) as never[];
};

const readDerived = (node: Extract<SettledValue, { kind: 'derived' }>): Read => {
  const inputs = readAll(node.inputs);
  const accept = accepting(node.type);
  const open = !readsSealed(node);
  return (row, facts) => {
    if (node.guard.length > 0 && follow(row, node.guard) === null) return null;
    const values = inputs(row, facts);
    const value = guarded('a derived value', open, () => node.compute(...values));
    if (value === null && node.nullable) return null;
    return accept(value);
  };
};

const readConverted = (node: Extract<SettledValue, { kind: 'converted' }>): Read => {
  const input = readValue(node.input);
  const { conversion } = node;
  const accept = accepting(conversion.yields);
  return (row, facts) => {
    const value = input(row, facts);
    if (value === null) return null;
    const changed = convert(conversion, value);
    // A conversion that cannot show a value yields NaN: say so about the value, not about NaN.
    if (Number.isNaN(changed))
      throw new Misfit('ROW_RANGE', `a value that ${conversion.name} can show`, value);
    return accept(changed);
  };
};

/** Reads and checks the value of a node; null where it may be null and is. */
export const readValue = (node: SettledValue): Read => {
  const read = openRead(node);
  if (!readsSealed(node)) return read;
  return (row, facts) => {
    try {
      return read(row, facts);
    } catch (error) {
      throw error instanceof Misfit ? error.conceal() : error;
    }
  };
};

/** Whether a sealed column is among what the node reads, masked or not. */
const readsSealed = (node: SettledValue): boolean => columnsRead(node).some(({ sealed }) => sealed !== null);

const openRead = (node: SettledValue): Read => {
  switch (node.kind) {
    case 'column': {
      const accept = accepting(node.column.type);
      if (node.path.length === 0) return (row) => readColumn(node.column, accept, row);
      return (row) => {
        const at = follow(row, node.path);
        return at === null ? null : readColumn(node.column, accept, at);
      };
    }
    case 'fact':
      return (_row, facts) => facts[node.fact.name];
    case 'derived':
      return readDerived(node);
    case 'converted':
      return readConverted(node);
    case 'constant':
      return () => node.value;
    case 'figure':
      return (row, facts) => {
        const at = follow(row, node.path);
        if (at === null) return null;
        const { link, selection, of } = node;
        return of === null ? counted(at, link, selection, facts) : figured(at, link, selection, of, facts);
      };
    default:
      return node satisfies never;
  }
};

const verdictOf = (test: (...inputs: never[]) => unknown, inputs: never[]): boolean => {
  let verdict: unknown;
  try {
    verdict = test(...inputs);
  } catch {
    // What it threw may show a sealed value, so it is not repeated.
    throw new Misfit('ROW_FUNCTION', 'a condition to be tested', undefined, ': its function threw');
  }
  if (typeof verdict === 'boolean') return verdict;
  throw new Misfit('ROW_FUNCTION', 'a condition to be true or false', verdict);
};

/** Tests whether a row satisfies a condition. */
export const readCondition = (condition: RowCondition): Test => {
  switch (condition.kind) {
    case 'compares': {
      const { operator, compare, left, right } = condition;
      const value = readValue(left);
      const other: Read = right.kind === 'value' ? () => right.value : readValue(right);
      return (row, facts) => compare(operator, left.column.type, value(row, facts), other(row, facts));
    }
    case 'thereIs':
      return (row, facts) => {
        const at = follow(row, condition.path);
        return at !== null && rowsOf(at, condition.link, condition.selection, facts).length > 0;
      };
    case 'holds': {
      const inputs = readAll(condition.inputs);
      return (row, facts) => {
        if (condition.guard.length > 0 && follow(row, condition.guard) === null) return false;
        return verdictOf(condition.test, inputs(row, facts));
      };
    }
    case 'asked':
      // Of what is left open nothing is asked.
      return () => false;
    case 'all': {
      const parts = condition.of.map(readCondition);
      return (row, facts) => parts.every((test) => test(row, facts));
    }
    case 'any': {
      const parts = condition.of.map(readCondition);
      return (row, facts) => parts.some((test) => test(row, facts));
    }
    case 'not': {
      const test = readCondition(condition.of);
      return (row, facts) => !test(row, facts);
    }
    default:
      return condition satisfies never;
  }
};
