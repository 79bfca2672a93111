import { anyNumber, anyText, anyWhole } from '../../plan/any-type.js';
import type { ColumnType } from '../../plan/column-type.js';
import type { ValueNode } from '../../plan/condition.js';
import { firstThere } from '../../plan/first-there.js';
import { mayBeNull } from '../../plan/null-safety.js';
import { valueType } from '../../plan/value-type.js';
import { freeze } from '../../util/freeze.js';
import { combine } from '../references/combine.js';
import { Broken, handOut, handOutBroken, MemberRef } from '../references/member.js';
import type { AnyValue, MadeOf, Sealed, Value, ValueOf } from '../types/member-types.js';

type RowValue<V> = V extends AnyValue<infer T> ? T : never;
type JsonOf<V> = V extends Value<unknown, infer W> | Sealed<unknown, infer W> ? W : never;

/** What there is of either: null where both may be. */
type Either<A, B> = MadeOf<A | B, NonNullable<RowValue<A>> | RowValue<B>, NonNullable<JsonOf<A>> | JsonOf<B>>;

/** Either of the values. */
type OneValue<V> = ValueOf<V, unknown, 'orElse takes values of the row; use constant(…) for a fixed one'>;

const TEXTS: readonly string[] = ['text', 'oneOf', 'uuid'];
const NUMBERS: readonly string[] = ['integer', 'real'];

/** The type of a value; of a constant, the one that its JSON value would have as a column. */
const typeOf = (node: ValueNode): ColumnType => {
  if (node.kind !== 'constant') return valueType(node);
  const { value } = node;
  if (typeof value === 'string') return anyText;
  if (typeof value === 'boolean') return freeze({ kind: 'bool' });
  if (typeof value === 'number') return Number.isInteger(value) ? anyWhole : anyNumber;
  return valueType(node);
};

const aboutOf = (node: ValueNode): string | null => (node.kind === 'column' ? node.column.about : null);

/** A type that has the values of both, if there is one: limits are those of neither. */
const commonType = (one: ColumnType, other: ColumnType): ColumnType | null => {
  if (one.kind === 'oneOf' && other.kind === 'oneOf')
    return freeze({ kind: 'oneOf', choices: freeze([...new Set([...one.choices, ...other.choices])]) });
  if (one.kind === 'decimal' && other.kind === 'decimal') {
    const whole = Math.max(one.precision - one.scale, other.precision - other.scale);
    const scale = Math.max(one.scale, other.scale);
    return freeze({ kind: 'decimal', precision: whole + scale, scale, min: null, max: null });
  }
  if (TEXTS.includes(one.kind) && TEXTS.includes(other.kind))
    return one.kind === 'uuid' && other.kind === 'uuid' ? one : anyText;
  if (NUMBERS.includes(one.kind) && NUMBERS.includes(other.kind))
    return one.kind === 'integer' && other.kind === 'integer' ? anyWhole : anyNumber;
  if (one.kind !== other.kind) return null;
  if (one.kind === 'bigint') return freeze({ kind: 'bigint', min: null, max: null });
  if (one.kind === 'bytes') return freeze({ kind: 'bytes', max: null });
  return one;
};

/**
 * The other value where the first one is null. Members are objects while a shape is declared, so `??`, `||`, `&&` and
 * `? :` cannot choose between them: this can.
 *
 * @param value a value that may be null
 * @param other what stands in for it: another value of the row of the same kind, or a `constant`
 * @returns the value; null only where both are; sealed where one of them is
 * @throws {RowError} while writing: where either does not fit, whichever is taken
 * @example
 * label: orElse(v.callSign, v.name)
 */
export const orElse = <A, B>(value: OneValue<A>, other: OneValue<B>): Either<A, B> => {
  const combined = combine([value, other], 'orElse');
  if (combined instanceof Broken) return handOutBroken(combined);
  const { inputs, home, seals } = combined;
  // One for each of the two.
  const [first, second] = inputs as readonly [ValueNode, ValueNode];
  if (!mayBeNull(first))
    return handOutBroken('orElse: the first value is never null, so the other would never be there');
  const [one, another] = [typeOf(first), typeOf(second)];
  const type = commonType(one, another);
  if (type === null)
    return handOutBroken(`orElse takes two values of one kind; these are ${one.kind} and ${another.kind}`);
  const node = {
    kind: 'derived',
    inputs,
    type,
    nullable: mayBeNull(second),
    guard: [],
    compute: firstThere,
    about: aboutOf(first) ?? aboutOf(second),
  } as const;
  return handOut(new MemberRef(node, home, seals));
};
