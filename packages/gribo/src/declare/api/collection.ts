import { endpointIn } from '../../editions/endpoint-in.js';
import { forEditions } from '../../editions/for-editions.js';
import type { Here } from '../../editions/here.js';
import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { FilterParameter, Operation, ParentPlan, SortParameter } from '../../plan/api-plan.js';
import type { ConditionNode } from '../../plan/condition.js';
import type { BodyPlan, DeprecationNotice } from '../../plan/declared.js';
import type { InputPlan } from '../../plan/input-plan.js';
import { ALWAYS, allOf, isAlways, notOf } from '../../plan/joined.js';
import { leavesOf } from '../../plan/leaves-of.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { didYouMean } from '../../util/nearest.js';
import { type BuiltFilter, conditionOf, filterOf } from '../conditions/condition-of.js';
import type { Column } from '../entity/column.js';
import type { Bound, BoundEntity, EntityName, ModelTypes } from '../entity/model.js';
import { type Deprecation, noticeOf } from '../members/deprecated.js';
import type { SortPath } from '../members/some.js';
import { optionsIn } from '../references/in-force.js';
import { Broken } from '../references/member.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import { sortTarget } from '../references/sort-key.js';
import type { CheckedOptions } from '../types/checked-types.js';
import type { Comparison, FilterMember } from '../types/comparison.js';
import type { ByEdition } from '../types/edition-types.js';
import type { Takable } from '../types/input-types.js';
import type { ColumnsOf, Condition, Row, ToOneName } from '../types/member-types.js';
import type { Carried } from '../types/sent.js';
import type { AnyBody } from '../types/shape-types.js';
import {
  bodyFinding,
  type EndpointDraft,
  inputFinding,
  orderOf,
  type PathParameters,
  parametersOf,
  pathFinding,
  takenPlan,
} from './endpoint.js';

declare const OPERATIONS: unique symbol;

/** An operation that takes an input, or `list(input)`, and sends a body where it returns one. */
export interface Writing {
  readonly takes?: Takable | ByEdition<Takable>;
  readonly returns?: AnyBody | ByEdition<AnyBody>;
}

/** What people give where an operation belongs: it is told in words. */
type NoWriting = Takable | AnyBody;

/** The to-one links of an entity: a parent is behind one of them. */
type ParentLink<M extends ModelTypes, K> = string extends keyof M['links']
  ? string
  : K extends keyof M['links']
    ? ToOneName<M, K>
    : string;

/** What only some audiences may sort by, or only in some editions. */
export interface SortFor<M extends ModelTypes, K extends EntityName<M>> {
  readonly by: SortPath<M, K>;
  readonly audiences?: readonly string[];
  /** `editionFrom(…)`, `editionBefore(…)`, or what is made of them. */
  readonly given?: Condition<unknown>;
}

export interface CollectionOptions<M extends ModelTypes, K extends EntityName<M>> {
  /** `GET /path`: `list(shape)`, `page(shape)` or one of these wrapped. */
  readonly list?: AnyBody | ByEdition<AnyBody>;
  /** `GET /path/{key}`. */
  readonly read?: AnyBody | ByEdition<AnyBody>;
  /** `POST /path`. */
  readonly create?: Writing | NoWriting | ByEdition<Writing>;
  /** `PUT /path/{key}`. */
  readonly replace?: Writing | NoWriting | ByEdition<Writing>;
  /** `PATCH /path/{key}`. */
  readonly amend?: Writing | NoWriting | ByEdition<Writing>;
  /** `DELETE /path/{key}`. */
  readonly remove?: true;
  /**
   * The to-one link to the parent of a child collection. A parameter of the path has its name; where the link is over several
   * columns, a parameter has the name of each.
   */
  readonly under?: ParentLink<M, K>;
  /** Query parameters that filter the list: `{ flag: equals(v.flagState) }`. */
  readonly filters?: (row: Row<M, K>) => Readonly<Record<string, FilterMember | Comparison>>;
  /** What a caller may sort the list by: columns, behind to-one links too; `{ by, audiences }` where not everybody may, `{ by, given }` in some editions. */
  readonly sort?: readonly (SortPath<M, K> | SortFor<M, K>)[];
  /**
   * The audiences it answers, all of its operations or each by its name: `{ remove: ['harbourMaster'] }`. An
   * operation that is left out answers everybody.
   */
  readonly audiences?: readonly string[] | { readonly [P in Operation]?: readonly string[] };
  /** Says that it will go; sent along with every response. */
  readonly deprecated?: Deprecation;
  /** What its operations do, each in a sentence, for descriptions. */
  readonly about?: { readonly [P in Operation]?: string };
}

/** The names of a key's columns. */
type KeyNames<C> = {
  [N in keyof C]: C[N] extends Column<unknown, unknown, infer F> ? ('key' extends F ? N : never) : never;
}[keyof C] &
  string;

/** The path parameters of an operation: those of its path and, where it is about one row, its key. */
export type OperationParameters<M extends ModelTypes, K, P extends string, Name> =
  | PathParameters<P>
  | (Name extends 'list' | 'create' ? never : K extends EntityName<M> ? KeyNames<ColumnsOf<M, K>> : never);

/** A resource with its operations, before its API names it, without its types. */
export interface AnyCollection {
  /** The operations in the newest edition. */
  readonly plans: ReadonlyMap<Operation, EndpointDraft>;
  /** The operations in another one. */
  readonly in: (here: Here) => ReadonlyMap<Operation, EndpointDraft>;
}

/** A resource with its operations, before its API names it: its model and entity, its path, and its operations. */
export interface Collection<M, K, P extends string, Ops> extends AnyCollection {
  readonly [OPERATIONS]: readonly [M, K, P, Ops];
}

interface LooseSort {
  readonly by: string;
  readonly audiences?: readonly string[];
  readonly given?: unknown;
}

/** An operation that takes an input, in one edition. */
interface WritingIn {
  readonly takes?: Takable;
  readonly returns?: AnyBody;
}

/** The options as the runtime sees them. */
interface LooseOptions {
  readonly [operation: string]: unknown;
  readonly under?: string;
  readonly filters?: (row: object) => Readonly<Record<string, unknown>>;
  readonly sort?: readonly (string | LooseSort)[];
  readonly audiences?: readonly string[] | { readonly [operation: string]: readonly string[] };
  readonly deprecated?: Deprecation;
  readonly about?: { readonly [operation: string]: string };
}

const METHODS: Readonly<Record<Operation, string>> = {
  list: 'GET',
  read: 'GET',
  create: 'POST',
  replace: 'PUT',
  amend: 'PATCH',
  remove: 'DELETE',
};

const OPERATIONS_IN_ORDER = Object.keys(METHODS) as Operation[];
const WRITING = ['create', 'replace', 'amend'] as const;
const SETTINGS = ['under', 'filters', 'sort', 'audiences', 'deprecated', 'about'];

/** Reads the options of one collection, and gathers what is wrong with them. */
class CollectionBuilder {
  readonly findings: Finding[] = [];
  readonly #path: string;
  readonly #over: BoundEntity;
  readonly #said: LooseOptions;
  /** What of that there is in this edition. */
  readonly #options: LooseOptions;
  readonly #here: Here;

  constructor(path: string, over: BoundEntity, options: LooseOptions, here: Here) {
    this.#path = path;
    this.#over = over;
    this.#here = here;
    this.#said = options;
    this.#options = this.#optionsOf(options);
  }

  /** The options in this edition, those of operations that take something too. */
  #optionsOf(options: LooseOptions): LooseOptions {
    const refuseAt = (place: string) => (name: string, broken: Broken) =>
      this.findings.push(...broken.findings(`${this.#path} ${place}${name}`));
    const left = optionsIn(options, this.#here, refuseAt(''));
    const writing = WRITING.filter((operation) => isPlainLiteral(left[operation])).map((operation) => [
      operation,
      optionsIn(left[operation] as object, this.#here, refuseAt(`${operation} `)),
    ]);
    return { ...left, ...Object.fromEntries(writing) };
  }

  build(): ReadonlyMap<Operation, EndpointDraft> {
    this.findings.push(...pathFinding(this.#path));
    this.#checkNames();
    const under = this.#parent();
    const filters = this.#filters();
    const sort = this.#sort();
    const deprecated = this.#notice();
    const plans = new Map<Operation, EndpointDraft>();
    for (const operation of OPERATIONS_IN_ORDER) {
      const given = this.#options[operation];
      if (given === undefined) continue;
      const isMany = operation === 'list';
      const path = isMany || operation === 'create' ? this.#path : this.#path + this.#keyPath(under);
      const body = this.#bodyOf(operation, given);
      plans.set(
        operation,
        endpointIn(
          {
            method: METHODS[operation],
            path,
            parameters: parametersOf(path),
            operation,
            looksUp: false,
            entity: this.#over.entity,
            returns: body,
            takes: this.#inputOf(operation, given),
            takesMany: isListTaken(given),
            query: null,
            sends: 'body',
            files: freeze([]),
            problems: freeze([]),
            under,
            filters: isMany ? filters : freeze([]),
            sort: isMany ? sort : freeze([]),
            order: orderOf(body),
            audiences: this.#audiencesOf(operation),
            deprecated,
            about: this.#options.about?.[operation] ?? null,
          },
          this.#here,
        ),
      );
    }
    return plans;
  }

  #refuse(place: string, message: string): null {
    this.findings.push({ path: place === '' ? this.#path : `${this.#path} ${place}`, message });
    return null;
  }

  #refuseAll(place: string, broken: Broken): null {
    this.findings.push(...broken.findings(`${this.#path} ${place}`));
    return null;
  }

  #keyPath(under: ParentPlan | null): string {
    // What the parent's part of the path says already of the key does not come again.
    const said = under?.parameters ?? [];
    const names = this.#over.entity.key.filter((name) => !said.includes(name));
    return names.map((name) => `/{${name}}`).join('');
  }

  #checkNames(): void {
    const known = [...OPERATIONS_IN_ORDER, ...SETTINGS];
    for (const name of Object.keys(this.#options)) {
      if (!known.includes(name)) this.#refuse(name, `there is no such operation.${didYouMean(name, known)}`);
    }
    const { about, audiences } = this.#options;
    this.#checkOperations('about', about ?? {});
    this.#checkOperations('audiences', Array.isArray(audiences) ? {} : (audiences ?? {}));
    if (this.#over.entity.readOnly && this.#options['remove'] !== undefined)
      this.#refuse('remove', `the rows of ${this.#over.entity.name} are only read`);
    if (!OPERATIONS_IN_ORDER.some((operation) => this.#said[operation] !== undefined)) {
      this.#refuse('', 'it has no operation: give it a list, read, create, replace, amend or remove');
    }
  }

  /** What is said of operations is said of those that there are. */
  #checkOperations(setting: string, said: object): void {
    const there = OPERATIONS_IN_ORDER.filter((operation) => this.#options[operation] !== undefined);
    for (const name of Object.keys(said)) {
      if (there.some((operation) => operation === name)) continue;
      this.#refuse(setting, `the collection has no operation "${name}".${didYouMean(name, there)}`);
    }
  }

  #audiencesOf(operation: Operation): readonly string[] | null {
    const { audiences } = this.#options;
    const named = isList(audiences) ? audiences : audiences?.[operation];
    return named === undefined ? null : freeze([...named]);
  }

  #bodyOf(operation: Operation, given: unknown): BodyPlan | null {
    const plan = planOf(given) ?? planOf((given as { returns?: unknown }).returns);
    if (plan === null) return null;
    this.findings.push(...bodyFinding(`${this.#path} ${operation}`, this.#over.entity, plan));
    const many = plan.kind === 'envelope' ? plan.content.kind === 'list' : plan.kind === 'list';
    if (many !== (operation === 'list')) {
      const wanted = operation === 'list' ? 'list(shape) or page(shape)' : 'a shape';
      this.#refuse(operation, `expected ${wanted}`);
    }
    return plan;
  }

  #inputOf(operation: Operation, given: unknown): InputPlan | null {
    const takes = takenPlan((given as WritingIn).takes);
    this.findings.push(...inputFinding(`${this.#path} ${operation}`, this.#over.entity, takes));
    if (takes !== null && takes.amends !== (operation === 'amend')) {
      const wanted = operation === 'amend' ? 'amending(input, …): absent means unchanged' : 'input(…)';
      this.#refuse(operation, `expected ${wanted}`);
    }
    if (isListTaken(given)) this.#checkList(operation, given as WritingIn);
    return takes;
  }

  /** Rows that are taken by the many are not sent back: there may be more than fit into memory. */
  #checkList(operation: Operation, { returns }: WritingIn): void {
    if (operation !== 'create') this.#refuse(operation, 'it is about one row: a list is taken by create');
    else if (returns !== undefined) this.#refuse(operation, 'a list is taken: leave returns out');
  }

  #parent(): ParentPlan | null {
    const { under } = this.#options;
    if (under === undefined) return null;
    const link = this.#over.links.get(under);
    if (link === undefined || link.kind !== 'toOne') {
      const known = [...this.#over.links.values()]
        .filter(({ kind }) => kind === 'toOne')
        .map(({ name }) => name);
      return this.#refuse(
        'under',
        `${this.#over.entity.name} has no to-one link "${under}".${didYouMean(under, known)}`,
      );
    }
    const sealed = link.from.find((name) =>
      this.#over.entity.columns.some((column) => column.name === name && column.sealed !== null),
    );
    if (sealed !== undefined) {
      return this.#refuse('under', `its path would show ${sealed}, which is sealed`);
    }
    // One column goes by the name of the link, several by their own.
    const parameters = link.from.length === 1 ? [under] : link.from;
    const there = parametersOf(this.#path);
    const missing = parameters.filter((name) => !there.includes(name));
    if (missing.length === 0) return freeze({ parameters: freeze([...parameters]), link });
    const braces = missing.map((name) => `{${name}}`).join(' and ');
    return this.#refuse('under', `the path has no parameter ${braces}`);
  }

  #filters(): readonly FilterParameter[] {
    const place = rootRow(this.#over);
    const members = this.#options.filters?.(rowRef(place)) ?? {};
    const made = Object.entries(members).flatMap(([name, member]): readonly FilterParameter[] => {
      const filter = filterOf(member);
      if (filter instanceof Broken) {
        this.#refuseAll(`filter ${name}`, filter);
        return [];
      }
      return filtersOf(name, filter);
    });
    return freeze(made);
  }

  #notice(): DeprecationNotice | null {
    const { deprecated } = this.#options;
    if (deprecated === undefined) return null;
    const notice = noticeOf(deprecated);
    return notice instanceof Broken ? this.#refuseAll('deprecated', notice) : notice;
  }

  /** What a sort is said to be given by: editions alone. */
  #editionsOf(by: string, given: unknown): ConditionNode {
    const built = conditionOf(given);
    if (!(built instanceof Broken) && leavesOf(built.node).every(({ kind }) => kind === 'edition'))
      return built.node;
    this.#refuse(`sort ${by}`, 'given is about editions here: editionFrom(…) or editionBefore(…)');
    return ALWAYS;
  }

  #sort(): readonly SortParameter[] {
    const made = (this.#options.sort ?? []).flatMap((said): SortParameter[] => {
      const { by, audiences, given }: LooseSort = typeof said === 'string' ? { by: said } : said;
      const target = sortTarget(this.#over, by);
      if (target instanceof Broken) {
        this.#refuseAll('sort', target);
        return [];
      }
      const condition = given === undefined ? ALWAYS : this.#editionsOf(by, given);
      const forSome =
        audiences === undefined
          ? ALWAYS
          : freeze({ kind: 'audience', names: freeze([...audiences]) } as const);
      const both = allOf<ConditionNode>(forSome, condition);
      const when = isAlways(both) ? null : both;
      return [freeze({ name: by, ...target, when, shown: null })];
    });
    return freeze(made);
  }
}

/** A filter, and the one that is there instead of it in other editions. */
const filtersOf = (name: string, filter: BuiltFilter): readonly FilterParameter[] => {
  const { left, operator, when, otherwise } = filter;
  const { path, column } = left;
  const made = freeze({ name, path, column, operator, when, shown: null });
  if (otherwise === null || when === null) return [made];
  return [made, ...filtersOf(name, { ...otherwise, when: unless(when, otherwise.when) })];
};

const unless = (condition: ConditionNode, when: ConditionNode | null): ConditionNode => {
  const not = notOf(condition);
  return when === null ? not : allOf(not, when);
};

const isList = (audiences: LooseOptions['audiences']): audiences is readonly string[] =>
  Array.isArray(audiences);

const isListTaken = (given: unknown): boolean => (given as WritingIn).takes?.plan.kind === 'list';

const planOf = (body: unknown): BodyPlan | null =>
  (typeof body === 'function' || typeof body === 'object') && body !== null && 'plan' in body
    ? (body.plan as BodyPlan)
    : null;

/**
 * Declares a resource with its operations. An operation that is left out does not exist.
 *
 * @param path where its rows are: `/vessels`; for a child, `/port-calls/{portCall}/cargo`
 * @param over the entity
 * @param options `list read create replace amend remove`, `under`, `filters`, `sort`,
 * `audiences`, `deprecated`, `about`
 * @throws {DeclarationError} `DECLARATION` listing everything that is wrong with it
 * @example
 * collection('/vessels', db.vessel, { list: list(VesselCard), read: VesselDetail, remove: true })
 */
export const collection = <
  M extends ModelTypes,
  K extends EntityName<M>,
  const P extends string,
  const O extends CollectionOptions<M, K>,
>(
  path: P,
  over: Bound<M, K>,
  options: CheckedOptions<O, K>,
): Collection<M, K, P, Carried<O>> => {
  const made = forEditions((here): ReadonlyMap<Operation, EndpointDraft> => {
    const builder = new CollectionBuilder(path, over, options as unknown as LooseOptions, here);
    const plans = builder.build();
    DeclarationError.throwIfAny(`collection "${path}"`, builder.findings);
    return plans;
  });
  // The phantom that carries the bodies' types exists for the compiler only.
  return freeze({ plans: made.newest, in: made.in }) as unknown as Collection<M, K, P, Carried<O>>;
};
