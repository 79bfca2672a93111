import {
  type AnyBody,
  at,
  type BoundEntity,
  count,
  audience as forAudience,
  given,
  input,
  jsonSchema,
  loadPlan,
  optional,
  type Store,
  shape,
  storeFor,
  unseal,
  writer,
} from 'gribo';
import { askingAs } from '../asked/caller.js';
import { planned } from '../asked/planned.js';
import { storedRow } from '../asked/stored-row.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { draftSource } from './draft-source.js';
import type { DraftMember, DraftWish, Wherever } from './draft-wish.js';
import { KnownModel } from './known-model.js';

/** A draft as the board shows it. */
export interface DraftData {
  /** What is wrong with it; null: nothing. */
  readonly wrong: string | null;
  readonly source: string;
  /** The response for the stored row as JSON; null where there is no row, or something is wrong. */
  readonly response: string | null;
  readonly keys: readonly string[];
  readonly schema: object | null;
  readonly takes: object | null;
}

/** The reference to a row while a shape is declared: members by name. */
type Reference = Readonly<Record<string, unknown>>;
type Literal = Record<string, unknown>;

// What is wished for is only known when the program runs: the types of declarations say nothing of it.
const declare = {
  shape: shape as unknown as (
    bound: BoundEntity,
    members: (row: Reference) => Literal,
    options: { readonly name: string },
  ) => AnyBody & ((row: unknown) => unknown),
  input: input as unknown as (
    bound: BoundEntity,
    members: (row: Reference) => Literal,
    options: { readonly name: string },
  ) => Parameters<typeof jsonSchema>[0],
  unseal: unseal as unknown as (names: readonly string[], member: unknown) => unknown,
  given: given as unknown as (condition: unknown, member: unknown) => unknown,
  at: at as unknown as (cases: Literal) => unknown,
  count: count as unknown as (link: unknown) => unknown,
  optional: optional as unknown as (column: unknown) => unknown,
  audience: forAudience as unknown as (...names: readonly string[]) => unknown,
};

/** A member for some audiences, at some endpoints. */
const placed = (member: unknown, { audiences, endpoints }: Wherever, isSealed: boolean): unknown => {
  const told = isSealed
    ? declare.unseal(audiences, member)
    : audiences.length === 0
      ? member
      : declare.given(declare.audience(...audiences), member);
  return endpoints.length === 0
    ? told
    : declare.at(Object.fromEntries(endpoints.map((endpoint) => [endpoint, told])));
};

/** Declares what is wished for, as the text of the draft does. */
class Drafting {
  readonly #known: KnownModel;

  constructor(known: KnownModel) {
    this.#known = known;
  }

  shape(bound: BoundEntity, members: readonly DraftMember[], name: string) {
    return declare.shape(bound, (row) => this.#members(bound, members, row), { name });
  }

  #members(bound: BoundEntity, members: readonly DraftMember[], row: Reference): Literal {
    return Object.assign({}, ...members.map((member) => this.#member(bound, member, row))) as Literal;
  }

  #member(bound: BoundEntity, member: DraftMember, row: Reference): Literal {
    if (member.kind === 'column') {
      const { sealed } = this.#known.column(bound, member.column);
      if (sealed !== null && member.audiences.length === 0)
        throw new Mistake(`${bound.entity.name}.${member.column} is sealed (${sealed}): say for whom it is.`);
      return { [member.name]: placed(row[member.column], member, sealed !== null) };
    }
    const link = this.#known.link(bound, member.link);
    if (member.kind === 'count')
      return { [member.name]: placed(declare.count(row[link.name]), member, false) };
    const target = this.#known.entity(link.target.name);
    if (member.kind === 'flat') return this.#members(target, member.members, row[link.name] as Reference);
    const nested = this.shape(target, member.members, link.target.name);
    return { [member.name]: placed(nested(row[link.name]), member, false) };
  }
}

const ROWS = 40;

const sayWrong = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** The response for a stored row. */
const shown = async (body: AnyBody, wish: DraftWish, config: GriboConfig, opened: Store) => {
  const { audience, endpoint, key } = wish;
  const asking = askingAs(config, audience === null ? {} : { audience });
  const situation = { audience, ...(endpoint === null ? {} : { endpoint }) };
  const one = planned(body.plan);
  const plan = loadPlan(one, situation);
  const store = storeFor(opened, config.api, asking.caller, asking.now);
  const { entity } = new KnownModel(config).entity(wish.entity);
  const rows = await store.list(
    { ...plan, columns: [...new Set([...plan.columns, ...loadPlan(keysOf(config, wish.entity)).columns])] },
    { limit: ROWS },
  );
  const keys = rows.map((row) => entity.key.map((name) => String((row as Literal)[name])).join(','));
  const row = key === null ? rows[0] : await storedRow(store, plan, entity, key);
  const text = row === undefined ? null : writer(one, situation as never).json(row as never, asking);
  return { keys, text };
};

/** A shape of the key alone: rows are chosen by it. */
const keysOf = (config: GriboConfig, name: string) => {
  const bound = new KnownModel(config).entity(name);
  const literal = (row: Reference): Literal =>
    Object.fromEntries(bound.entity.key.map((column) => [column, row[column]]));
  return planned(declare.shape(bound, literal, { name: 'key' }).plan);
};

/**
 * A draft: its text, and what it would send and take.
 *
 * @throws {Mistake} where the configuration has no model
 */
export const drafted = async (wish: DraftWish, config: GriboConfig, store: Store): Promise<DraftData> => {
  const known = new KnownModel(config);
  const bound = known.entity(wish.entity);
  const nothing = { response: null, keys: [], schema: null, takes: null };
  if (wish.members.length === 0 && wish.takes.length === 0)
    return { wrong: 'Choose what is sent, or what is taken.', source: '', ...nothing };
  const source = draftSource(wish, known);
  try {
    const body = wish.members.length === 0 ? null : new Drafting(known).shape(bound, wish.members, wish.name);
    const situation = {
      audience: wish.audience,
      ...(wish.endpoint === null ? {} : { endpoint: wish.endpoint }),
    };
    const taken = (row: Reference): Literal =>
      Object.fromEntries(
        wish.takes.map(({ column, isOptional }) => [
          column,
          isOptional ? declare.optional(row[column]) : row[column],
        ]),
      );
    const takes =
      wish.takes.length === 0
        ? null
        : jsonSchema(declare.input(bound, taken, { name: `New${wish.name}` }), { audience: wish.audience });
    if (body === null) return { wrong: null, source, ...nothing, takes };
    const { keys, text } = await shown(body, wish, config, store);
    return { wrong: null, source, response: text, keys, schema: jsonSchema(body, situation), takes };
  } catch (error) {
    return { wrong: sayWrong(error), source, ...nothing };
  }
};
