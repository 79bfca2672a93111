import { freeze } from '../../util/freeze.js';
import { asked, audience, editionBefore, editionFrom } from '../conditions/conditions.js';
import { at } from '../members/at.js';
import { type Unsealable, type Unsealed, unseal } from '../members/unseal.js';
import type {
  Asks,
  BeforeEdition,
  Cases,
  Condition,
  Fields,
  ForAudience,
  FromEdition,
  Given,
  Member,
} from '../types/member-types.js';
import type { LastPart } from '../types/output.js';

/** The names of an API that shapes use before it is declared. */
export interface ApiNamesOptions<
  A extends string,
  N extends string,
  E extends string,
  Ed extends string = never,
> {
  /** Those whom responses are for. */
  readonly audiences?: readonly A[];
  /** What a caller may ask for with `?with=`. */
  readonly asks?: readonly N[];
  /** The endpoints that members differ at: by full name, or by its last part. */
  readonly endpoints?: readonly E[];
  /** The forms of the API that callers rely on, oldest first. */
  readonly editions?: readonly Ed[];
}

/** Members by endpoint, each of them one that there is. */
type KnownCases<C, E extends string> = {
  readonly [Name in keyof C]: Name extends E | LastPart<E> | 'otherwise'
    ? C[Name]
    : `no endpoint is called "${Name & string}"`;
};

/*
 * Each function has a type with a name: the declarations of a program that takes them apart are short.
 */

/** `audience` for the audiences of one API. */
export type AudienceAmong<A extends string> = <const Names extends readonly [A, ...A[]]>(
  ...names: Names
) => Condition<ForAudience<Names[number]>>;

/** `asked` for what may be asked for at one API. */
export type AskedAmong<N extends string> = <const Name extends N>(name: Name) => Condition<Asks<Name>>;

/** `editionFrom` for the editions of one API. */
export type EditionFromAmong<Ed extends string> = <const Name extends Ed>(
  edition: Name,
) => Condition<FromEdition<Name>>;

/** `editionBefore` for the editions of one API. */
export type EditionBeforeAmong<Ed extends string> = <const Name extends Ed>(
  edition: Name,
) => Condition<BeforeEdition<Name>>;

/** `unseal` for the audiences of one API. */
export type UnsealAmong<A extends string> = <const Name extends A, M extends Unsealable>(
  audience: Name | readonly [Name, ...Name[]],
  member: M,
) => Given<ForAudience<Name>, Unsealed<M>>;

/** `at` for the endpoints of one API. */
export type AtAmong<E extends string> = <const C extends { readonly [endpoint: string]: Member | Fields }>(
  cases: C & KnownCases<C, E> & { readonly [Name in E | LastPart<E> | 'otherwise']?: unknown },
) => Cases<C>;

/** `audience`, `unseal`, `asked`, `at`, `editionFrom` and `editionBefore` that take the names of one API only, for the compiler to check and complete. */
export interface ApiNames<A extends string, N extends string, E extends string, Ed extends string = never> {
  readonly audiences: readonly A[];
  readonly asks: readonly N[];
  /** As `audience`, for the audiences of this API. */
  readonly audience: AudienceAmong<A>;
  /** As `asked`, for what may be asked for at this API. */
  readonly asked: AskedAmong<N>;
  /** As `editionFrom`, for the editions of this API. */
  readonly editionFrom: EditionFromAmong<Ed>;
  /** As `editionBefore`, for the editions of this API. */
  readonly editionBefore: EditionBeforeAmong<Ed>;
  /** As `unseal`, for the audiences of this API. */
  readonly unseal: UnsealAmong<A>;
  /** As `at`, for the endpoints of this API. */
  readonly at: AtAmong<E>;
}

/**
 * The names of an API, said once before the shapes that use them: a misspelt audience or endpoint is refused where it is
 * written, and the right ones are completed.
 *
 * @param names `audiences`, `asks`, `endpoints` and `editions`, each of them optional
 * @returns `audience`, `asked`, `unseal`, `at`, `editionFrom` and `editionBefore` for these names, and `audiences` and `asks` to
 * give to `api`
 * @example
 * const { audience, unseal } = apiNames({ audiences: ['public', 'agent'], endpoints: ['list', 'read'] });
 */
export const apiNames = <
  const A extends string = never,
  const N extends string = never,
  const E extends string = never,
  const Ed extends string = never,
>(
  names: ApiNamesOptions<A, N, E, Ed>,
): ApiNames<A, N, E, Ed> => {
  const { audiences = [], asks = [] } = names;
  // They are the same functions: which names they take is for the compiler only, and `api` looks at all of them again.
  return freeze({
    audiences: freeze([...audiences]),
    asks: freeze([...asks]),
    audience,
    asked,
    unseal,
    at,
    editionFrom,
    editionBefore,
  }) as unknown as ApiNames<A, N, E, Ed>;
};
