import { unknownEntity } from '../errors/unknown-entity.js';
import { behind } from '../plan/behind.js';
import type { ColumnPlan, EntityPlan, LinkPlan, StampGiven, StampPlan } from '../plan/entity-plan.js';
import type { LinkedEntities, LinkedEntity } from '../plan/linked-entity.js';
import { freeze } from '../util/freeze.js';
import { setMember } from '../util/set-member.js';
import type {
  ChangePlan,
  ChangeStep,
  Flow,
  InsertStep,
  Only,
  TestStep,
  UpdateStep,
  Values,
} from './change-plan.js';
import type { ChangeRules } from './change-rules.js';
import type { ChangeTerms } from './change-terms.js';
import { fromMiddle, RuleTests } from './rule-tests.js';
import { stampedValue } from './stamped-value.js';

/** A change as a reader yields it: columns, and rows under the names of links. */
type Change = Readonly<Record<string, unknown>>;

/** A row that a nested input asks for, and the place of the row that it belongs to. */
interface Inner {
  readonly change: Change;
  readonly owner: number;
}

/** Rows behind to-one links are there first: their owner holds their key. Those behind to-many links come after. */
const linksOf = ({ links }: LinkedEntity, kind: LinkPlan['kind']): readonly LinkPlan[] =>
  [...links.values()].filter((link) => link.kind === kind);

/** The columns that a change sets. */
const ownValues = ({ columns }: EntityPlan, change: Change): Values => {
  const values = {};
  for (const { name } of columns) if (change[name] !== undefined) setMember(values, name, change[name]);
  return freeze(values);
};

/** Only the key of a row: behind a many-to-many link that row is meant, no new one. */
const isKeyOnly = ({ key }: EntityPlan, change: Change): boolean =>
  Object.keys(change).every((name) => key.includes(name));

const EVERYTHING: ChangeRules = new Map();

/** Whether a row sets one of these columns. */
const isSetIn = (row: Values, columns: readonly string[]): boolean => columns.some((name) => name in row);

const isCounting = ({ stamped }: ColumnPlan): boolean => stamped?.value === 'count';

/** The columns that count the changes of a row. */
const countedIn = ({ columns }: EntityPlan): readonly string[] =>
  freeze(columns.filter(isCounting).map(({ name }) => name));

/** What they are where the row is made. */
const startsOf = ({ columns }: EntityPlan): Values =>
  Object.fromEntries(
    columns.filter(isCounting).map(({ name, type }) => [name, type.kind === 'bigint' ? 1n : 1]),
  );

/** Walks a change and its links, and writes down what is to be done, in order. */
class ChangePlanner {
  readonly #entities: ReadonlyMap<string, LinkedEntity>;
  readonly #steps: ChangeStep[] = [];
  readonly #tests: RuleTests;
  readonly #stamp: StampGiven;

  constructor(model: LinkedEntities, { rules = EVERYTHING, stamp }: ChangeTerms) {
    this.#tests = new RuleTests(rules);
    this.#stamp = stamp ?? { caller: {}, now: new Date() };
    this.#entities = new Map(Object.values(model).map((linked) => [linked.entity.name, linked]));
  }

  linked(name: string): LinkedEntity {
    const linked = this.#entities.get(name);
    if (linked === undefined) throw unknownEntity(name, this.#entities.keys());
    return linked;
  }

  /** The steps, each with what the others need of it, and whoever runs them of the root. */
  steps(root: number, wanted: readonly string[]): readonly ChangeStep[] {
    this.#steps.push(...this.#tests.after);
    const needs = this.#steps.map(() => new Set<string>());
    for (const name of wanted) needs[root]?.add(name);
    const need = ({ from }: Pick<Flow, 'from'>): void => {
      const step = this.#steps[from.step];
      // What an update leaves as it is comes from the row that was found for it.
      const source = step?.kind === 'update' ? step.row : from.step;
      for (const name of from.columns) needs[source]?.add(name);
    };
    for (const step of this.#steps) {
      if (step.kind === 'remove' || step.kind === 'test') need(step.flow);
      else for (const flow of step.flows) need(flow);
      // A row is changed by its key.
      if (step.kind === 'update')
        for (const name of [...this.linked(step.entity).entity.key, ...step.counts])
          needs[step.row]?.add(name);
    }
    return freeze(
      this.#steps.map((step, i) =>
        step.kind === 'insert' || step.kind === 'find'
          ? freeze({ ...step, needs: freeze([...(needs[i] ?? [])]) })
          : step,
      ),
    );
  }

  #add(step: ChangeStep): number {
    this.#steps.push(freeze(step));
    return this.#steps.length - 1;
  }

  /** Looks for the row with these values. */
  find(
    entity: string,
    by: readonly string[],
    values: Values,
    flows: readonly Flow[],
    only: Only | null,
  ): number {
    return this.#add({ kind: 'find', entity, by, values, flows: freeze([...flows]), needs: [], only });
  }

  /** Makes rows of one entity, those before and behind them included. @returns the step that makes them */
  insert(entity: string, changes: readonly Change[], owned: readonly Flow[], only: Only | null): number {
    const linked = this.linked(entity);
    const flows = [
      ...linksOf(linked, 'toOne').flatMap((link) => this.#insertBefore(link, changes, only)),
      ...owned,
    ];
    const stamps = { ...startsOf(linked.entity), ...this.#stamps(linked.entity, 'create', 'change') };
    const rows = freeze(changes.map((change) => freeze({ ...stamps, ...ownValues(linked.entity, change) })));
    const step: InsertStep = { kind: 'insert', entity, rows, flows: freeze(flows), needs: [], only };
    const made = this.#add(step);
    this.#tests.changed(linked, made, (columns) => rows.some((row) => isSetIn(row, columns)), only);
    for (const link of linksOf(linked, 'toMany')) this.#insertBehind(link, changes, made, only);
    return made;
  }

  #insertBefore(link: LinkPlan, changes: readonly Change[], only: Only | null): readonly Flow[] {
    const inner: Inner[] = [];
    changes.forEach((change, owner) => {
      if (link.name in change) inner.push({ change: change[link.name] as Change, owner });
    });
    if (inner.length === 0) return [];
    const step = this.insert(
      link.target.name,
      inner.map(({ change }) => change),
      [],
      only,
    );
    const places = new Map(inner.map(({ owner }, place) => [owner, place]));
    const rows = freeze(changes.map((_change, owner) => places.get(owner) ?? null));
    return [freeze({ columns: link.from, from: freeze({ step, columns: link.to }), rows })];
  }

  /** The rows behind a to-many link of rows that an earlier step has made or found. */
  #insertBehind(link: LinkPlan, changes: readonly Change[], owners: number, only: Only | null): void {
    const inner: Inner[] = [];
    changes.forEach((change, owner) => {
      for (const item of (change[link.name] ?? []) as readonly Change[]) inner.push({ change: item, owner });
    });
    if (inner.length === 0) return;
    const { through, from, to, target } = link;
    const owner = (columns: readonly string[]): Flow =>
      freeze({
        columns,
        from: freeze({ step: owners, columns: from }),
        rows: freeze(inner.map((item) => item.owner)),
      });
    if (through === null) {
      const changed = inner.map(({ change }) => change);
      this.insert(target.name, changed, [owner(to)], only);
      return;
    }
    const flows = [owner(through.from), ...this.#newTargets(link, inner, only)];
    const known = inner.map(({ change }) =>
      isKeyOnly(target, change)
        ? Object.fromEntries(through.to.map((name, n) => [name, change[to[n] ?? name]]))
        : {},
    );
    this.#tests.named(link, this.insert(through.entity.name, known, flows, only));
  }

  /** The rows behind a many-to-many link that are not there yet. */
  #newTargets(
    { target, through, to }: LinkPlan,
    inner: readonly Inner[],
    only: Only | null,
  ): readonly Flow[] {
    const changes = inner.map(({ change }) => change).filter((change) => !isKeyOnly(target, change));
    if (changes.length === 0 || through === null) return [];
    const step = this.insert(target.name, changes, [], only);
    let place = 0;
    const rows = freeze(inner.map(({ change }) => (isKeyOnly(target, change) ? null : place++)));
    return [freeze({ columns: through.to, from: freeze({ step, columns: to }), rows })];
  }

  /** What columns are set to by a change itself. */
  #stamps({ name, columns }: EntityPlan, ...on: readonly StampPlan['on'][]): Values {
    const stamped = columns.flatMap((column) => {
      const { stamped: stamp } = column;
      if (stamp === null || stamp.value === 'count' || !on.includes(stamp.on)) return [];
      return [[column.name, stampedValue(name, column, stamp.value, this.#stamp)] as const];
    });
    return Object.fromEntries(stamped);
  }

  #addTest(test: TestStep | null): void {
    if (test !== null) this.#add(test);
  }

  /** Sets what a change names of the row that a step finds, and of those around it. */
  amend(entity: string, found: number, change: Change, only: Only | null): void {
    const linked = this.linked(entity);
    this.#addTest(this.#tests.before(linked.entity, found, only));
    const flows = linksOf(linked, 'toOne')
      .filter(({ name }) => name in change)
      .map((link) => this.#amendBefore(link, found, change[link.name] as Change, only));
    const isNothing = Object.keys(change).length === 0;
    const stamps = isNothing ? {} : this.#stamps(linked.entity, 'change');
    const counts = isNothing ? freeze([]) : countedIn(linked.entity);
    const set = freeze({ ...stamps, ...ownValues(linked.entity, change) });
    let owners = found;
    if (Object.keys(set).length + counts.length + flows.length > 0) {
      const step: UpdateStep = {
        kind: 'update',
        entity,
        row: found,
        set,
        counts,
        flows: freeze(flows),
        only,
      };
      owners = this.#add(step);
    }
    const changes = (columns: readonly string[]): boolean =>
      isSetIn(set, columns) || columns.some((name) => counts.includes(name));
    this.#tests.changed(linked, owners, changes, only);
    for (const link of linksOf(linked, 'toMany')) {
      if (!(link.name in change)) continue;
      this.#clear(link, found, only);
      this.#insertBehind(link, [change], owners, only);
    }
  }

  /** The row behind a to-one link is changed where it is there, and made where it is not. */
  #amendBefore({ target, from, to }: LinkPlan, found: number, change: Change, only: Only | null): Flow {
    const owner = freeze({ columns: to, from: freeze({ step: found, columns: from }), rows: freeze([0]) });
    const behind = this.find(target.name, to, freeze({}), [owner], only);
    this.amend(target.name, behind, change, freeze({ step: behind, found: true }));
    const step = this.insert(target.name, [change], [], freeze({ step: behind, found: false }));
    return freeze({ columns: from, from: freeze({ step, columns: to }), rows: freeze([0]) });
  }

  /** The rows of a nested to-many input take the place of those that were there. */
  #clear(link: LinkPlan, found: number, only: Only | null): void {
    const { target, through, from, to } = link;
    const columns = through?.from ?? to;
    const entity = through?.entity ?? target;
    const flow = freeze({ columns, from: freeze({ step: found, columns: from }), rows: freeze([0]) });
    this.#addTest(this.#tests.taken(entity, flow, only));
    // What the caller does not see stays: it is not there.
    const beyond =
      through === null ? [] : this.#tests.seen(target).map((see) => behind([fromMiddle(link)], see));
    const where = freeze([...this.#tests.seen(entity), ...beyond]);
    this.#add({ kind: 'remove', entity: entity.name, flow, where, only });
  }

  /** Removes the row that a step finds. */
  remove(entity: string, found: number): void {
    const plan = this.linked(entity).entity;
    const { key } = plan;
    this.#addTest(this.#tests.before(plan, found, null));
    const stamps = this.#stamps(plan, 'remove');
    if (Object.keys(stamps).length > 0) {
      const set = freeze({ ...this.#stamps(plan, 'change'), ...stamps });
      const counts = countedIn(plan);
      this.#add({ kind: 'update', entity, row: found, set, counts, flows: freeze([]), only: null });
      return;
    }
    const flow = freeze({ columns: key, from: freeze({ step: found, columns: key }), rows: freeze([0]) });
    this.#add({ kind: 'remove', entity, flow, where: freeze([]), only: null });
  }
}

const planOf = (
  planner: ChangePlanner,
  operation: ChangePlan['operation'],
  entity: string,
  root: number,
  needs: readonly string[],
): ChangePlan =>
  freeze({
    kind: 'changePlan',
    operation,
    entity,
    root,
    steps: planner.steps(root, needs),
  });

const keyValues = (key: readonly string[], values: readonly unknown[]): Values =>
  freeze(Object.fromEntries(key.map((name, i) => [name, values[i]])));

/** What is to be changed. */
export type WantedChange =
  | { readonly operation: 'create'; readonly entity: string; readonly change: object }
  /** Many rows at once. Nobody asks for their keys. */
  | { readonly operation: 'create'; readonly entity: string; readonly changes: readonly object[] }
  | {
      readonly operation: 'amend';
      readonly entity: string;
      readonly key: readonly unknown[];
      readonly change: object;
    }
  | { readonly operation: 'remove'; readonly entity: string; readonly key: readonly unknown[] };

/**
 * What a change does, in order: the rows that are found, made, changed and removed, and which keys flow
 * from one to another. A step holds all rows of one entity and level, however many are nested.
 *
 * @param model the model
 * @param wanted the operation, the entity, the key of the row, and the change as a reader yields it
 * @param terms whose change it is: `rules`, tested by steps of their own, and `stamp`, what stamped columns are set to
 * @returns plain frozen data
 * @throws {GriboError} `UNKNOWN` where the model has no such entity
 * @example
 * planChange(db, { operation: 'create', entity: 'quay', change: { name: 'East' } }).steps.map(({ kind, entity }) => `${kind} ${entity}`) // => ["insert quay"]
 */
export const planChange = (
  model: LinkedEntities,
  wanted: WantedChange,
  terms: ChangeTerms = {},
): ChangePlan => {
  const planner = new ChangePlanner(model, terms);
  const { operation, entity } = wanted;
  const { key } = planner.linked(entity).entity;
  if (operation === 'create') {
    const changes = 'changes' in wanted ? wanted.changes : [wanted.change];
    const made = planner.insert(entity, changes as readonly Change[], [], null);
    return planOf(planner, operation, entity, made, 'changes' in wanted ? [] : key);
  }
  const found = planner.find(entity, key, keyValues(key, wanted.key), [], null);
  if (operation === 'amend') planner.amend(entity, found, wanted.change as Change, null);
  else planner.remove(entity, found);
  return planOf(planner, operation, entity, found, key);
};
