import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../../plan/entity-plan.js';
import { holdAlike } from '../../plan/hold-alike.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import { snakeCase } from '../../util/snake-case.js';
import type { Columns, EntityDefinition } from './entity.js';
import { inheritedName } from './inherited.js';
import type { Through, ToMany, ToOne, Via } from './links.js';
import { planColumn } from './plan-column.js';

declare const MODEL: unique symbol;

/** Entities by name. */
export interface Entities {
  readonly [name: string]: EntityDefinition<Columns>;
}

/** The names of an entity's columns. */
type ColumnName<E> = E extends EntityDefinition<infer C> ? keyof C & string : never;

/** Columns of an entity that hold others: one, several in the order of the key, or pairs. */
export type ColumnsThat<Hold extends string> = Hold | readonly Hold[] | { readonly [N in Hold]?: string };

/** Links by entity and by the row's property names. A to-one link is over columns of its own entity. */
export type Links<D> = {
  readonly [K in keyof D]?: {
    readonly [link: string]:
      | ToOne<keyof D & string, ColumnsThat<ColumnName<D[K]>>, boolean>
      | ToMany<keyof D & string>;
  };
};

/** The types of a model: its entities and its links. */
export interface ModelTypes<D = unknown, L = unknown> {
  readonly entities: D;
  readonly links: L;
}

/** The names of a model's entities. */
export type EntityName<M extends ModelTypes> = keyof M['entities'];

/** One entity of a model, with its links: what `shape` is declared over. */
export interface Bound<M extends ModelTypes, K> {
  readonly [MODEL]: readonly [M, K];
  readonly name: K;
  readonly entity: EntityPlan;
  readonly links: ReadonlyMap<string, LinkPlan>;
  readonly model: BoundModel;
}

/** Every bound entity of a model by name, without its types. */
export type BoundModel = ReadonlyMap<string, BoundEntity>;

/** A bound entity without its types. */
export interface BoundEntity {
  readonly entity: EntityPlan;
  readonly links: ReadonlyMap<string, LinkPlan>;
  readonly model: BoundModel;
}

/** A model: one bound entity for each entity, under the same name. */
export type Model<M extends ModelTypes> = { readonly [K in EntityName<M>]: Bound<M, K> };

/**
 * The types of a model, to give them a name: hovers, messages and declarations then say that name.
 * @example
 * const fleet = model({ operator, vessel }, { vessel: { operator: toOne('operator', 'operatorId') } });
 * interface Fleet extends ModelOf<typeof fleet> {}
 * const db: Model<Fleet> = fleet;
 */
export type ModelOf<B> = B extends Model<infer M> ? M : never;

export interface ModelOptions {
  /** How stored names follow from property names. Default: `snake_case`. */
  readonly columnNames?: 'snake_case' | 'same';
}

type AnyLink = ToOne<string, Via, boolean> | ToMany<string>;

/** Columns that hold values, and those whose values they are, in step. */
interface Sides {
  readonly holding: readonly string[];
  readonly held: readonly string[];
}

const isList = (via: Via): via is readonly string[] => Array.isArray(via);

/** What a link is over; what is held is the key, where no pair names it. */
const sidesOf = (via: Via, { key }: EntityPlan): Sides => {
  if (typeof via === 'string') return { holding: [via], held: key };
  if (isList(via)) return { holding: via, held: key };
  return { holding: Object.keys(via), held: Object.values(via) };
};

/** Whether no two rows have the same values in these columns, as far as one column tells. */
const isUnique = ({ columns, key }: EntityPlan, names: readonly string[]): boolean =>
  key.every((name) => names.includes(name)) ||
  columns.some(({ name, unique }) => unique && names.includes(name));

const planEntity = (
  definition: EntityDefinition<Columns>,
  toStored: (name: string) => string,
): EntityPlan => {
  const columns = Object.entries(definition.columns).map(
    ([name, { settings }]): ColumnPlan => planColumn(name, toStored(name), settings),
  );
  return freeze({
    name: definition.name,
    kind: 'table',
    table: definition.stored ?? toStored(definition.name),
    columns: freeze(columns),
    readOnly: definition.readOnly,
    key: freeze(columns.filter((column) => column.key).map((column) => column.name)),
  });
};

/** Builds the links of one model and gathers what is wrong with them. */
class LinkBuilder {
  readonly findings: Finding[] = [];
  readonly #entities: ReadonlyMap<string, EntityPlan>;
  #at = '';

  constructor(entities: ReadonlyMap<string, EntityPlan>) {
    this.#entities = entities;
  }

  build(owner: EntityPlan, name: string, link: AnyLink): LinkPlan | null {
    this.#at = `${owner.name}.${name}`;
    const inherited = inheritedName(name, 'such as its entity');
    if (inherited !== null) return this.#refuse(inherited);
    if (owner.columns.some((column) => column.name === name)) {
      return this.#refuse(`a column and a link have the same name; rename the link`);
    }
    const target = this.#entity(link.target);
    if (target === null) return null;
    if (link.kind === 'toOne') return this.#toOne(owner, name, target, link);
    return link.through === null
      ? this.#toMany(owner, name, target, link.via)
      : this.#throughOther(owner, name, target, link.through);
  }

  #toOne(
    owner: EntityPlan,
    name: string,
    target: EntityPlan,
    { via, optional }: ToOne<string, Via, boolean>,
  ): LinkPlan | null {
    const sides = this.#sides(owner, via, target);
    if (sides === null) return null;
    const [from, to] = [sides.holding.map((column) => column.name), sides.held.map((column) => column.name)];
    // Several columns may be unique together: that is not declared.
    if (to.length === 1 && !isUnique(target, to)) {
      const column = `${target.name}.${to[0]}`;
      return this.#refuse(`${column} may be the same in several rows: make it .unique(), or link toMany`);
    }
    return freeze({
      kind: 'toOne',
      name,
      owner: owner.name,
      target,
      from: freeze(from),
      to: freeze(to),
      reference: optional ? (isUnique(owner, from) ? 'there' : 'none') : 'here',
      nullable: optional || sides.holding.some((column) => column.nullable),
      through: null,
    });
  }

  #toMany(owner: EntityPlan, name: string, target: EntityPlan, via: Via): LinkPlan | null {
    const sides = this.#sides(target, via, owner);
    if (sides === null) return null;
    return freeze({
      kind: 'toMany',
      name,
      owner: owner.name,
      target,
      from: freeze(sides.held.map((column) => column.name)),
      to: freeze(sides.holding.map((column) => column.name)),
      reference: 'there',
      nullable: false,
      through: null,
    });
  }

  #throughOther(owner: EntityPlan, name: string, target: EntityPlan, via: Through): LinkPlan | null {
    const middle = this.#entity(via.through);
    if (middle === null) return null;
    const mine = this.#sides(middle, via.from, owner);
    const theirs = this.#sides(middle, via.to, target);
    if (mine === null || theirs === null) return null;
    const names = (columns: readonly ColumnPlan[]): readonly string[] =>
      freeze(columns.map((column) => column.name));
    return freeze({
      kind: 'toMany',
      name,
      owner: owner.name,
      target,
      from: names(mine.held),
      to: names(theirs.held),
      reference: 'there',
      nullable: false,
      through: freeze({ entity: middle, from: names(mine.holding), to: names(theirs.holding) }),
    });
  }

  /** The columns of one entity that hold those of another, which it names or whose key they are. */
  #sides(
    holder: EntityPlan,
    via: Via,
    keyed: EntityPlan,
  ): { readonly holding: readonly ColumnPlan[]; readonly held: readonly ColumnPlan[] } | null {
    const { holding, held } = sidesOf(via, keyed);
    const [one, other] = [this.#columns(holder, holding), this.#columns(keyed, held)];
    if (one === null || other === null) return null;
    return this.#matches(holder, one, keyed, other) ? { holding: one, held: other } : null;
  }

  #refuse(message: string): null {
    this.findings.push({ path: this.#at, message });
    return null;
  }

  #entity(name: string): EntityPlan | null {
    const found = this.#entities.get(name);
    if (found !== undefined) return found;
    return this.#refuse(`there is no entity "${name}".${didYouMean(name, this.#entities.keys())}`);
  }

  #columns(entity: EntityPlan, names: readonly string[]): readonly ColumnPlan[] | null {
    const known = entity.columns.map((column) => column.name);
    const found = names.map((name) => entity.columns.find((column) => column.name === name) ?? name);
    const missing = found.filter((column) => typeof column === 'string');
    for (const name of missing) {
      this.#refuse(`${entity.name} has no column "${name}".${didYouMean(name, known)}`);
    }
    return missing.length > 0 ? null : found.filter((column) => typeof column !== 'string');
  }

  /** Whether the columns of one entity can hold those of another. */
  #matches(
    holder: EntityPlan,
    columns: readonly ColumnPlan[],
    keyed: EntityPlan,
    held: readonly ColumnPlan[],
  ): boolean {
    if (columns.length !== held.length || held.length === 0) {
      const key = keyed.key.map((name) => `"${name}"`).join(', ');
      const need = `the key of ${keyed.name} is ${key}`;
      this.#refuse(`${need}: name ${keyed.key.length} columns of ${holder.name}, not ${columns.length}`);
      return false;
    }
    const wrong = columns.flatMap((column, i) => {
      const other = held[i];
      return other === undefined || holdAlike(other.type, column.type) ? [] : [[column, other] as const];
    });
    for (const [column, other] of wrong) {
      const here = `${holder.name}.${column.name} is ${column.type.kind}`;
      this.#refuse(`${here}, but ${keyed.name}.${other.name} is ${other.type.kind}`);
    }
    return wrong.length === 0;
  }
}

const storedTwice = (entity: EntityPlan): Finding[] => {
  const seen = new Map<string, string>();
  const findings: Finding[] = [];
  for (const column of entity.columns) {
    const other = seen.get(column.stored);
    if (other !== undefined) {
      const message = `stored as "${column.stored}", as "${other}" is; use .stored('other_name')`;
      findings.push({ path: `${entity.name}.${column.name}`, message });
    }
    seen.set(column.stored, column.name);
  }
  return findings;
};

/**
 * Joins entities to a model: who links to whom, by which columns.
 *
 * @param entities the definitions, each under its own name
 * @param links links by entity; each is a property of the row that holds the linked row or rows
 * @param options `columnNames`: how stored names follow from property names
 * @returns one bound entity for each name, to declare shapes over
 * @throws {DeclarationError} `DECLARATION` listing every unknown entity and column, every
 * link with too few keys or differing column types
 * @example
 * const db = model({ operator, vessel }, { vessel: { operator: toOne('operator', 'operatorId') } });
 */
export const model = <const D extends Entities, const L extends Links<D>>(
  entities: D,
  links: L,
  options: ModelOptions = {},
): Model<ModelTypes<D, L>> => {
  const toStored = options.columnNames === 'same' ? (name: string): string => name : snakeCase;
  const findings: Finding[] = [];
  const plans = new Map<string, EntityPlan>();
  for (const [name, definition] of Object.entries(entities)) {
    if (definition.name !== name) {
      const message = `the entity calls itself "${definition.name}"; use one name`;
      findings.push({ path: name, message });
    }
    const plan = planEntity({ ...definition, name }, toStored);
    findings.push(...storedTwice(plan));
    plans.set(name, plan);
  }
  const bound = new Map<string, BoundEntity>();
  const builder = new LinkBuilder(plans);
  const linksOf: Record<string, Record<string, AnyLink>> = { ...links } as never;
  for (const name of Object.keys(linksOf)) {
    if (!plans.has(name)) {
      const message = `has links, but there is no such entity.${didYouMean(name, plans.keys())}`;
      findings.push({ path: name, message });
    }
  }
  for (const [name, entity] of plans) {
    const made = new Map<string, LinkPlan>();
    for (const [link, definition] of Object.entries(linksOf[name] ?? {})) {
      const plan = builder.build(entity, link, definition);
      if (plan !== null) made.set(link, plan);
    }
    bound.set(name, freeze({ entity, links: made, model: bound, name }));
  }
  DeclarationError.throwIfAny('model', [...findings, ...builder.findings]);
  // The phantom that carries the types exists for the compiler only.
  return freeze(Object.fromEntries(bound)) as unknown as Model<ModelTypes<D, L>>;
};
