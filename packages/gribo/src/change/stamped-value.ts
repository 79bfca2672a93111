import { GriboError } from '../errors/gribo-error.js';
import { RowError } from '../errors/row-error.js';
import type { ColumnPlan, StampGiven } from '../plan/entity-plan.js';
import { kindOfValue } from '../util/describe-value.js';
import { nameOfType, valueKind } from '../values/kinds.js';

/** What is known of a caller, and which of it was asked for and is not. */
const watched = (
  caller: StampGiven['caller'],
): { readonly caller: StampGiven['caller']; readonly missing: string[] } => {
  const missing: string[] = [];
  const get = (all: StampGiven['caller'], name: string | symbol): unknown => {
    const value: unknown = Reflect.get(all, name);
    if (value === undefined && typeof name === 'string') missing.push(name);
    return value;
  };
  return { caller: new Proxy(caller, { get }), missing };
};

/**
 * What a stamped column is set to, looked at like the value of a row. What came is not shown: facts may be in it.
 *
 * @throws {RowError} `ROW_FUNCTION` where the function throws, or gives what is no value of the column; {GriboError}
 * `CALLER` where it does so for want of a fact
 */
export const stampedValue = (
  entity: string,
  { name, type, nullable }: ColumnPlan,
  make: (given: StampGiven) => unknown,
  given: StampGiven,
): unknown => {
  const { caller, missing } = watched(given.caller);
  const wrong = (came: string): GriboError => {
    const [fact] = missing;
    return fact === undefined
      ? new RowError(
          'ROW_FUNCTION',
          `${entity}.${name}`,
          `expected ${nameOfType(type)} from stamped(…)`,
          came,
        )
      : new GriboError(
          'CALLER',
          `caller.${fact}`,
          `${entity}.${name} is stamped with it, and it is not given`,
        );
  };
  let value: unknown;
  try {
    value = make({ ...given, caller });
  } catch {
    throw wrong(': its function threw');
  }
  if (value === null && nullable) return null;
  const accepted = valueKind(type).accept(value, type);
  if (accepted === undefined) throw wrong(`, got ${kindOfValue(value)}`);
  return accepted;
};
