import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../../plan/entity-plan.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import { snakeCase } from '../../util/snake-case.js';
import type { Columns, EntityDefinition } from './entity.js';
import { inheritedName } from './inherited.js';
import type { Through, ToMany, ToOne } from './links.js';

declare const MODEL: unique symbol;

/** Entities by name. */
export interface Entities {
  readonly [name: string]: EntityDefinition<Columns>;
}

/** The names of an entity's columns. */
type ColumnName<E> = E extends EntityDefinition<infer C> ? keyof C & string : never;

/** Links by entity and by the row's property names. A to-one link is over columns of its own entity. */
export type Links<D> = {
  readonly [K in keyof D]?: {
    readonly [link: string]:
      | ToOne<keyof D & string, ColumnName<D[K]> | readonly ColumnName<D[K]>[]>
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

type AnyLink = ToOne<string, string | readonly string[]> | ToMany<string>;

const listed = (names: string | readonly string[]): readonly string[] =>
  typeof names === 'string' ? [names] : names;

const planEntity = (
  definition: EntityDefinition<Columns>,
  toStored: (name: string) => string,
): EntityPlan => {
  const columns = Object.entries(definition.columns).map(
    ([name, { settings }]): ColumnPlan =>
      freeze({
        name,
        stored: settings.stored ?? toStored(name),
        type: settings.type,
        nullable: settings.nullable,
        key: settings.key,
        generated: settings.generated,
        defaulted: settings.defaulted,
        stamped: settings.stamped,
        unique: settings.unique,
        sealed: settings.sealed,
        via: settings.via,
        about: settings.about,
        example: settings.example,
      }),
  );
  return freeze({
    name: definition.name,
    kind: 'table',
    table: definition.stored ?? toStored(definition.name),
    columns: freeze(columns),
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
    if (link.kind === 'toOne') return this.#toOne(owner, name, target, listed(link.via));
    return link.through === null
      ? this.#toMany(owner, name, target, link.via)
      : this.#throughOther(owner, name, target, link.through);
  }

  #toOne(owner: EntityPlan, name: string, target: EntityPlan, via: readonly string[]): LinkPlan | null {
    const from = this.#columns(owner, via);
    if (from === null || !this.#matches(owner, from, target)) return null;
    const nullable = from.some((column) => column.nullable);
    const sides = { from: freeze([...via]), to: target.key };
    return freeze({ kind: 'toOne', name, owner: owner.name, target, ...sides, nullable, through: null });
  }

  #toMany(owner: EntityPlan, name: string, target: EntityPlan, via: readonly string[]): LinkPlan | null {
    const to = this.#columns(target, via);
    if (to === null || !this.#matches(target, to, owner)) return null;
    const sides = { from: owner.key, to: freeze([...via]) };
    return freeze({
      kind: 'toMany',
      name,
      owner: owner.name,
      target,
      ...sides,
      nullable: false,
      through: null,
    });
  }

  #throughOther(owner: EntityPlan, name: string, target: EntityPlan, via: Through): LinkPlan | null {
    const middle = this.#entity(via.through);
    if (middle === null) return null;
    const from = this.#columns(middle, listed(via.from));
    const to = this.#columns(middle, listed(via.to));
    if (from === null || to === null) return null;
    const fits = [this.#matches(middle, from, owner), this.#matches(middle, to, target)];
    if (fits.includes(false)) return null;
    const through = freeze({ entity: middle, from: freeze(listed(via.from)), to: freeze(listed(via.to)) });
    const sides = { from: owner.key, to: target.key };
    return freeze({ kind: 'toMany', name, owner: owner.name, target, ...sides, nullable: false, through });
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

  /** Whether the columns of one entity can hold the key of another. */
  #matches(holder: EntityPlan, columns: readonly ColumnPlan[], keyed: EntityPlan): boolean {
    if (columns.length !== keyed.key.length) {
      const key = keyed.key.map((name) => `"${name}"`).join(', ');
      const need = `the key of ${keyed.name} is ${key}`;
      this.#refuse(`${need}: name ${keyed.key.length} columns of ${holder.name}, not ${columns.length}`);
      return false;
    }
    const wrong = columns.filter((column, index) => {
      const key = keyed.columns.find((other) => other.name === keyed.key[index]);
      return key?.type.kind !== column.type.kind;
    });
    for (const column of wrong) {
      const key = keyed.columns.find((other) => other.name === keyed.key[columns.indexOf(column)]);
      const here = `${holder.name}.${column.name} is ${column.type.kind}`;
      this.#refuse(`${here}, but ${keyed.name}.${key?.name} is ${key?.type.kind}`);
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
