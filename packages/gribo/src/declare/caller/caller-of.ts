import { DeclarationError } from '../../errors/declaration-error.js';
import type { FactPlan } from '../../plan/condition.js';
import { NOW } from '../../plan/now.js';
import { freeze } from '../../util/freeze.js';
import type { AnyColumn, Column, ColumnFlag } from '../entity/column.js';
import { timestamp } from '../entity/columns.js';
import { handOut, MemberRef } from '../references/member.js';
import type { Value } from '../types/member-types.js';

declare const CALLER: unique symbol;

/** The facts of a caller by name, each with its column type. */
export interface Facts {
  readonly [name: string]: AnyColumn;
}

type OrNull<F extends ColumnFlag, T> = 'null' extends F ? T | null : T;

/** What a service knows of whoever asks: each fact a value, to be used wherever the column of a row is. */
export type Caller<C> = {
  readonly [N in keyof C]: C[N] extends Column<infer T, infer W, infer F>
    ? Value<OrNull<F, T>, OrNull<F, W>>
    : never;
} & { readonly [CALLER]: C };

/** The facts as a service gives them with each request. */
export type CallerFacts<K> =
  K extends Caller<infer C>
    ? { readonly [N in keyof C]: C[N] extends Column<infer T, unknown, infer F> ? OrNull<F, T> : never }
    : Readonly<Record<never, never>>;

/** What a caller was declared with. */
interface DeclaredCaller {
  readonly facts: readonly FactPlan[];
  readonly identity: readonly string[];
}

/** What is behind what was handed out. */
const declared = new WeakMap<object, DeclaredCaller>();

const declaredAs = (caller: unknown): DeclaredCaller | null =>
  typeof caller === 'object' && caller !== null ? (declared.get(caller) ?? null) : null;

/** The facts of a caller; null for anything else. */
export const factsOfCaller = (caller: unknown): readonly FactPlan[] | null =>
  declaredAs(caller)?.facts ?? null;

/** The names of the facts that say who a caller is; none where nothing is said. */
export const identityOfCaller = (caller: unknown): readonly string[] => declaredAs(caller)?.identity ?? [];

const factOf = (name: string, column: AnyColumn): FactPlan => {
  const { type, nullable, about } = column.settings;
  return freeze({ name, type, nullable, about });
};

const factValue = <T>(fact: FactPlan): T => handOut(new MemberRef({ kind: 'fact', fact }, null));

/** Names that say something of every caller already. */
const TAKEN = ['audience', NOW];

/**
 * Declares what a service knows of whoever asks: facts with column types, given with each request. They are used like
 * columns, in members, in conditions and in row rules, and are the same for all rows of a response.
 *
 * @param facts column types by name; `.nullable()` where a fact may be null
 * @param options `identity`: which of them say who it is, so that two requests with the same are of the same caller, whatever else is
 * known of it at the moment. A request that comes again is known by them
 * @returns the facts, each a value; give all of them to `api` as `caller`
 * @throws {DeclarationError} `DECLARATION` where a fact is called `audience` or `now`, or is sealed, or `identity` names none
 * @example
 * const caller = callerOf({ operatorId: integer().nullable(), zone: text() });
 * @example
 * const member = callerOf({ user: text(), expires: timestamp() }, { identity: ['user'] });
 */
export const callerOf = <const C extends Facts>(
  facts: C,
  { identity = [] }: { readonly identity?: readonly (keyof C & string)[] } = {},
): Caller<C> => {
  const findings = Object.entries(facts).flatMap(([name, column]) => {
    if (TAKEN.includes(name)) return [{ path: `caller.${name}`, message: 'the name has a meaning already' }];
    return column.settings.sealed === null
      ? []
      : [{ path: `caller.${name}`, message: 'a fact is never sent by itself: it needs no seal' }];
  });
  const unknown = identity
    .filter((name) => !Object.hasOwn(facts, name))
    .map((name) => ({ path: `caller.${name}`, message: 'identity names it, and it is no fact' }));
  DeclarationError.throwIfAny('caller', [...findings, ...unknown]);
  const plans = freeze(Object.entries(facts).map(([name, column]) => factOf(name, column)));
  const caller = freeze(Object.fromEntries(plans.map((fact) => [fact.name, factValue(fact)])));
  declared.set(caller, { facts: plans, identity: freeze([...identity]) });
  // The brand exists for the compiler only.
  return caller as unknown as Caller<C>;
};

/**
 * The moment in which a request is answered: one for all of its rows.
 *
 * @example
 * given(atMost(c.embargoUntil, now), c.eta)
 */
export const now: Value<Date, string> = factValue(factOf(NOW, timestamp() as AnyColumn));
