import type { Column, ColumnFlag } from '../entity/column.js';
import { combine } from '../references/combine.js';
import { Broken, handOut, handOutBroken, MemberRef } from '../references/member.js';
import type { AnyValue, Arguments, MadeOf } from '../types/member-types.js';

type NullFlag<F extends ColumnFlag, T> = 'null' extends F ? T | null : T;

/**
 * A value computed from others of the same row. It can read nothing but what it declares,
 * so what has to be loaded is known. Over a sealed value, the result is sealed.
 *
 * @param dependencies columns and other values, in the order the function takes them
 * @param type what the function returns, as a column type; `.nullable()` where it may return null
 * @param compute called once for each row
 * @returns the value, to be used as a member or as a dependency of another one
 * @throws {RowError} while writing: `ROW_FUNCTION` where the function throws, `ROW_TYPE` where it returns something else
 * @example
 * derive([v.builtYear], integer(), (year) => 2026 - year)
 */
export const derive = <const A extends readonly AnyValue[], T, W, F extends ColumnFlag>(
  dependencies: A,
  type: Column<T, W, F>,
  compute: (...values: Arguments<A>) => NullFlag<F, T>,
): MadeOf<A[number], NullFlag<F, T>, NullFlag<F, W>> => {
  const combined = combine(dependencies, 'derive');
  if (combined instanceof Broken) return handOutBroken(combined);
  const { inputs, home, seals } = combined;
  return handOut(
    new MemberRef(
      {
        kind: 'derived',
        inputs,
        type: type.settings.type,
        nullable: type.settings.nullable,
        guard: home?.base ?? [],
        compute: compute as (...inputs: never[]) => unknown,
        about: type.settings.about,
      },
      home,
      seals,
    ),
  );
};
