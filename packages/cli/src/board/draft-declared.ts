import {
  type AnyBody,
  at,
  audience,
  type BoundEntity,
  count,
  given,
  input,
  type jsonSchema,
  optional,
  shape,
  unseal,
} from 'gribo';
import type { Called, Draft, DraftedBody, Term } from './draft-terms.js';

/** The reference to a row while a body is declared: members by name. */
type Reference = Readonly<Record<string, unknown>>;
type Declare<T> = (
  bound: BoundEntity,
  members: (row: Reference) => Readonly<Record<string, unknown>>,
  options: { readonly name: string },
) => T;
type DraftedShape = AnyBody & ((row: unknown) => unknown);
type DraftedInput = Parameters<typeof jsonSchema>[0];

// What is wished for is only known when the program runs: the types of declarations say nothing of it.
const declareShape = shape as unknown as Declare<DraftedShape>;
const declareInput = input as unknown as Declare<DraftedInput>;
const FUNCTIONS = { at, audience, count, given, optional, unseal } as unknown as Readonly<
  Record<Called, (...given: readonly unknown[]) => unknown>
>;

/** Declares the bodies of a draft, one after the other. */
class Declaring {
  readonly #shapes = new Map<string, DraftedShape>();

  shape(body: DraftedBody): DraftedShape {
    const declared = declareShape(body.bound, (row) => this.#members(body, row), { name: body.name });
    this.#shapes.set(body.name, declared);
    return declared;
  }

  input(body: DraftedBody): DraftedInput {
    return declareInput(body.bound, (row) => this.#members(body, row), { name: body.name });
  }

  #members({ members }: DraftedBody, row: Reference): Readonly<Record<string, unknown>> {
    return Object.fromEntries(members.map(([name, term]) => [name, this.#term(term, row)]));
  }

  #term(term: Term, row: Reference): unknown {
    switch (term.kind) {
      case 'reached':
        return term.path.reduce<unknown>((reached, name) => (reached as Reference)[name], row);
      case 'text':
        return term.text;
      case 'texts':
        return term.texts;
      case 'cases': {
        const member = this.#term(term.member, row);
        return Object.fromEntries(term.endpoints.map((endpoint) => [endpoint, member]));
      }
      case 'call':
        return FUNCTIONS[term.called](...term.given.map((one) => this.#term(one, row)));
      case 'nested':
        return this.#shapes.get(term.shape)?.(this.#term(term.of, row));
    }
  }
}

/**
 * A draft as its text would declare it.
 *
 * @throws {DeclarationError} `DECLARATION` as the declarations do
 */
export const draftDeclared = ({
  shapes,
  input: taken,
}: Draft): { readonly body: AnyBody | null; readonly input: DraftedInput | null } => {
  const declaring = new Declaring();
  const bodies = shapes.map((one) => declaring.shape(one));
  return { body: bodies.at(-1) ?? null, input: taken === null ? null : declaring.input(taken) };
};
