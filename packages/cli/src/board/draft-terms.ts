import type { BoundEntity } from 'gribo';
import type { KnownModel } from '../asked/known-model.js';
import { capital } from '../draft/names.js';
import { Mistake } from '../screen/mistake.js';
import type { DraftMember, DraftWish, Wherever } from './draft-wish.js';

/** A function that drafts call. */
export type Called = 'at' | 'audience' | 'count' | 'given' | 'optional' | 'unseal';

/** What stands behind a member's name: data, that is written as text and declared as it is. */
export type Term =
  /** What is reached from the row by names: `row.operator.name`. */
  | { readonly kind: 'reached'; readonly path: readonly string[] }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'texts'; readonly texts: readonly string[] }
  /** A member for each endpoint. */
  | { readonly kind: 'cases'; readonly endpoints: readonly string[]; readonly member: Term }
  | { readonly kind: 'call'; readonly called: Called; readonly given: readonly Term[] }
  /** Another shape of the draft, called with what is reached. */
  | { readonly kind: 'nested'; readonly shape: string; readonly of: Term };

/** A shape or an input of a draft. */
export interface DraftedBody {
  readonly name: string;
  readonly bound: BoundEntity;
  readonly members: readonly (readonly [name: string, member: Term])[];
}

/** A draft as data: the shapes in the order in which they need each other, and the input. */
export interface Draft {
  readonly shapes: readonly DraftedBody[];
  readonly input: DraftedBody | null;
}

const call = (called: Called, ...given: readonly Term[]): Term => ({ kind: 'call', called, given });
const text = (one: string): Term => ({ kind: 'text', text: one });

/** Whom a sealed member is unsealed for: one name, or several. */
const whom = ([first = '', ...others]: readonly string[]): Term =>
  others.length === 0 ? text(first) : { kind: 'texts', texts: [first, ...others] };

/** A member for some audiences, at some endpoints. */
const placed = (member: Term, { audiences, endpoints }: Wherever, isSealed: boolean): Term => {
  const forSome = (): Term => call('given', call('audience', ...audiences.map(text)), member);
  const told = isSealed
    ? call('unseal', whom(audiences), member)
    : audiences.length === 0
      ? member
      : forSome();
  return endpoints.length === 0 ? told : call('at', { kind: 'cases', endpoints, member: told });
};

/** Gathers the shapes of a draft. */
class Drafting {
  readonly shapes: DraftedBody[] = [];
  readonly #known: KnownModel;
  readonly #names = new Set<string>();

  constructor(known: KnownModel) {
    this.#known = known;
  }

  /** Adds a shape, those that it nests first. @returns what it is called */
  shape(bound: BoundEntity, members: readonly DraftMember[], wished: string): string {
    const name = this.free(wished);
    const all = this.#members(bound, members, []);
    for (const [i, [member]] of all.entries()) {
      if (member === '') throw new Mistake(`A member of ${name} has no name.`);
      if (all.findIndex(([other]) => other === member) !== i)
        throw new Mistake(`Two members of ${name} are called ${member}: give one of them another name.`);
    }
    this.shapes.push({ name, bound, members: all });
    return name;
  }

  /** A name that nothing else in the draft has. */
  free(wished: string): string {
    const clean = capital(wished.replaceAll(/[^\p{ID_Continue}$]/gu, '').replace(/^\d+/, '')) || 'Draft';
    let name = clean;
    for (let i = 2; this.#names.has(name); i++) name = `${clean}${i}`;
    this.#names.add(name);
    return name;
  }

  #members(
    bound: BoundEntity,
    members: readonly DraftMember[],
    path: readonly string[],
  ): DraftedBody['members'] {
    return members.flatMap((member) => this.#member(bound, member, path));
  }

  #member(bound: BoundEntity, member: DraftMember, path: readonly string[]): DraftedBody['members'] {
    if (member.kind === 'column') {
      const { sealed } = this.#known.column(bound, member.column);
      if (sealed !== null && member.audiences.length === 0)
        throw new Mistake(`${bound.entity.name}.${member.column} is sealed (${sealed}): say for whom it is.`);
      const column: Term = { kind: 'reached', path: [...path, member.column] };
      return [[member.name, placed(column, member, sealed !== null)]];
    }
    const link = this.#known.link(bound, member.link);
    const reached: Term = { kind: 'reached', path: [...path, link.name] };
    if (member.kind === 'count') return [[member.name, placed(call('count', reached), member, false)]];
    const target = this.#known.entity(link.target.name);
    if (member.kind === 'flat') return this.#members(target, member.members, [...path, link.name]);
    const shape = this.shape(target, member.members, link.target.name);
    return [[member.name, placed({ kind: 'nested', shape, of: reached }, member, false)]];
  }
}

/**
 * What is wished for, as data that both its text and its response are made of.
 *
 * @throws {Mistake} where it cannot be declared so
 */
export const draftOf = (wish: DraftWish, known: KnownModel): Draft => {
  const bound = known.entity(wish.entity);
  const drafting = new Drafting(known);
  if (wish.members.length > 0) drafting.shape(bound, wish.members, wish.name);
  const taken = wish.takes.map(({ column, isOptional }): readonly [string, Term] => {
    const reached: Term = { kind: 'reached', path: [known.column(bound, column).name] };
    return [column, isOptional ? call('optional', reached) : reached];
  });
  const input =
    taken.length === 0 ? null : { name: drafting.free(`New${capital(wish.name)}`), bound, members: taken };
  return { shapes: drafting.shapes, input };
};
