import type { JsonValue } from '../../plan/condition.js';
import type { Presence } from '../../plan/input-plan.js';
import { freeze } from '../../util/freeze.js';
import { Broken } from '../references/member.js';
import type { SetBy } from '../types/carried.js';
import type { InputFields, InputMember, Preset, Waived } from '../types/input-types.js';
import type { Value } from '../types/member-types.js';
import type { SentAs } from '../types/standard-types.js';
import type { ValueFields, ValueMember } from '../types/values-types.js';
import { handOutInput, type InputRef, inputRefOf } from './input-ref.js';

/** The same in every edition. */
const present = (ref: InputRef, presence: Presence): InputRef => ({
  ...ref,
  presence,
  otherwise: ref.otherwise && present(ref.otherwise, presence),
});

const withPresence = <Seen>(member: unknown, presence: Presence): Seen => {
  const ref = inputRefOf(member);
  return handOutInput(ref instanceof Broken ? ref : present(ref, presence));
};

/**
 * A member that the body may leave out; then nothing is set.
 *
 * @param member a column, a group or a nested input
 * @returns the member, for the literal of an input
 * @example
 * callSign: optional(v.callSign)
 */
export const optional = <const M extends InputMember | InputFields | ValueMember | ValueFields>(
  member: M,
): Waived<M> => withPresence(member, freeze({ kind: 'optional' }));

/**
 * A member that the body may leave out; then this value is read in its place, as if it had been sent.
 *
 * @param member a column, a group or a nested input
 * @param value a JSON value, in the form in which the body has it; `input` throws a `DeclarationError` for one that it would refuse
 * @example
 * builtYear: preset(v.builtYear, 2000)
 */
export const preset = <const M extends InputMember | InputFields | ValueMember | ValueFields>(
  member: M,
  value: SentAs<M>,
): Preset<M> =>
  // What a body holds is JSON; `input` looks whether it is what the member reads.
  withPresence(member, freeze({ kind: 'preset', value: value as JsonValue }));

/**
 * Says that the body sets a column which the database would make otherwise.
 *
 * @param member a `.generated()` column; `input` throws a `DeclarationError` for one that nothing says the body may set
 * @returns the member, for the literal of an input
 * @example
 * createdAt: assigned(v.createdAt)
 */
export const assigned = <Name, T, W>(
  member: Value<T, W> & SetBy<Name, T, unknown>,
): Value<T, W> & SetBy<Name, T, 'open'> => {
  const ref = inputRefOf(member);
  return handOutInput(ref instanceof Broken ? ref : { ...ref, unassigned: [] });
};
