import { freeze } from '../../util/freeze.js';
import { asked, audience } from '../conditions/conditions.js';
import { at } from '../members/at.js';
import { type Unsealable, type Unsealed, unseal } from '../members/unseal.js';
import type { Asks, Cases, Condition, Fields, ForAudience, Given, Member } from '../types/member-types.js';
import type { LastPart } from '../types/output.js';

/** The names of an API that shapes use before it is declared. */
export interface ApiNamesOptions<A extends string, N extends string, E extends string> {
  /** Those whom responses are for. */
  readonly audiences?: readonly A[];
  /** What a caller may ask for with `?with=`. */
  readonly asks?: readonly N[];
  /** The endpoints that members differ at: by full name, or by its last part. */
  readonly endpoints?: readonly E[];
}

/** Members by endpoint, each of them one that there is. */
type KnownCases<C, E extends string> = {
  readonly [Name in keyof C]: Name extends E | LastPart<E> | 'otherwise'
    ? C[Name]
    : `no endpoint is called "${Name & string}"`;
};

/** `audience`, `unseal`, `asked` and `at` that take the names of one API only, for the compiler to check and complete. */
export interface ApiNames<A extends string, N extends string, E extends string> {
  readonly audiences: readonly A[];
  readonly asks: readonly N[];
  /** As `audience`, for the audiences of this API. */
  audience<const Names extends readonly [A, ...A[]]>(...names: Names): Condition<ForAudience<Names[number]>>;
  /** As `asked`, for what may be asked for at this API. */
  asked<const Name extends N>(name: Name): Condition<Asks<Name>>;
  /** As `unseal`, for the audiences of this API. */
  unseal<const Name extends A, M extends Unsealable>(
    audience: Name | readonly [Name, ...Name[]],
    member: M,
  ): Given<ForAudience<Name>, Unsealed<M>>;
  /** As `at`, for the endpoints of this API. */
  at<const C extends { readonly [endpoint: string]: Member | Fields }>(
    cases: C & KnownCases<C, E> & { readonly [Name in E | LastPart<E> | 'otherwise']?: unknown },
  ): Cases<C>;
}

/**
 * The names of an API, said once before the shapes that use them: a misspelt audience or endpoint is refused where it is
 * written, and the right ones are completed.
 *
 * @param names `audiences`, `asks` and `endpoints`, each of them optional
 * @returns `audience`, `asked`, `unseal` and `at` for these names, and `audiences` and `asks` to give to `api`
 * @example
 * const { audience, unseal } = apiNames({ audiences: ['public', 'agent'], endpoints: ['list', 'read'] });
 */
export const apiNames = <
  const A extends string = never,
  const N extends string = never,
  const E extends string = never,
>(
  names: ApiNamesOptions<A, N, E>,
): ApiNames<A, N, E> => {
  const { audiences = [], asks = [] } = names;
  // They are the same functions: which names they take is for the compiler only, and `api` looks at all of them again.
  return freeze({
    audiences: freeze([...audiences]),
    asks: freeze([...asks]),
    audience,
    asked,
    unseal,
    at,
  }) as unknown as ApiNames<A, N, E>;
};
