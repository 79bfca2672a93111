import { unknownEntity } from '../errors/unknown-entity.js';
import { behind } from '../plan/behind.js';
import type { StoreCondition } from '../plan/condition.js';
import type {
  ColumnPlan,
  EntityPlan,
  LinkPlan,
  StampGiven,
  StampPlan,
  ThroughPlan,
} from '../plan/entity-plan.js';
import type { LinkedEntities, LinkedEntity } from '../plan/linked-entity.js';
import { freeze } from '../util/freeze.js';
import { setMember } from '../util/set-member.js';
import { comparison } from '../values/comparison.js';
import { inKeyOrder } from '../values/in-key-order.js';
import { jsonReady } from '../values/kinds.js';
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
import { type ChangeTerms, stampedTerms } from './change-terms.js';
import { fromMiddle, RuleTests } from './rule-tests.js';
import { stampedValue } from './stamped-value.js';

/** A change as a reader yields it: columns, and rows under the names of links. */
type Change = Readonly<Record<string, unknown>>;

/** A row that a nested input asks for, and the place of the row that it belongs to. */
interface Inner {
  readonly change: Change;
  readonly owner: number;
}

/** Links to rows that are there first: their owner holds their key. */
const linksBefore = ({ links }: LinkedEntity): readonly LinkPlan[] =>
  [...links.values()].filter(({ reference }) => reference !== 'there');

/** Links to rows that come after their owner, whose key they hold. */
const linksBehind = ({ links }: LinkedEntity): readonly LinkPlan[] =>
  [...links.values()].filter(({ reference }) => reference === 'there');

/** What a change says of the rows behind a link. */
const changesBehind = ({ name, kind }: LinkPlan, change: Change): readonly Change[] => {
  const said = change[name];
  if (said === undefined) return [];
  return kind === 'toMany' ? (said as readonly Change[]) : [said as Change];
};

/** Links whose columns a row holds: it names the rows behind them. */
const namingLinks = ({ links }: LinkedEntity): readonly LinkPlan[] =>
  [...links.values()].filter(({ kind, reference }) => kind === 'toOne' && reference !== 'there');

/** What names rows: values of its columns, and what flows to them. */
interface Naming {
  readonly rows: readonly Values[];
  readonly flows: readonly Flow[];
}

/** The columns that a change sets. */
const ownValues = ({ columns }: EntityPlan, change: Change): Values => {
  const values = {};
  for (const { name } of columns) if (change[name] !== undefined) setMember(values, name, change[name]);
  return freeze(values);
};

/** Only the key of a row: behind a many-to-many link that row is meant, no new one. */
const isKeyOnly = ({ key }: EntityPlan, change: Change): boolean =>
  Object.keys(change).every((name) => key.includes(name));

/** The entity whose rows hold the key of a link's owner, and the columns that do. */
const holderOf = ({ through, target }: LinkPlan): EntityPlan => through?.entity ?? target;
const holdingOf = ({ through, to }: LinkPlan): readonly string[] => through?.from ?? to;

/** What one row takes over from the one row of an earlier step. */
const flowOfOne = (columns: readonly string[], step: number, taken: readonly string[]): Flow =>
  freeze({ columns, from: freeze({ step, columns: taken }), rows: freeze([0]) });

const NO_VALUES: Values = freeze({});

/** Values as a text: the same for those that are equal. */
const keyText = (columns: readonly ColumnPlan[], values: Values): string =>
  JSON.stringify(
    columns.flatMap(({ name, type }) => (name in values ? [jsonReady(type, values[name])] : [])),
  );

/** The columns by which a row of a list is known beside its owner: those of its key, or those that lead on to the other row. */
const knownBy = ({ target, to, through }: LinkPlan): readonly string[] =>
  through === null ? target.key.filter((name) => !to.includes(name)) : through.to;

/** What is known by these columns, as a change says it. */
const keptValues = (link: LinkPlan, change: Change): Values => {
  const names = knownBy(link);
  const said = link.through === null ? names : link.to;
  return Object.fromEntries(names.map((name, i) => [name, change[said[i] ?? name]]));
};

/** Whether the row in the middle of a link has more to it than the two that it joins. */
const hasMore = ({ entity, from, to }: ThroughPlan): boolean =>
  entity.columns.some(({ name }) => !from.includes(name) && !to.includes(name));

/** Whether a change names a row of a list that stays where it is there: others are made anew. */
const staysBehind = (link: LinkPlan, change: Change): boolean => {
  const { through, target } = link;
  if (through !== null && !(hasMore(through) && isKeyOnly(target, change))) return false;
  const values = Object.values(keptValues(link, change));
  return values.length > 0 && values.every((value) => value !== undefined && value !== null);
};

/** That a row is none of these. */
const notThese = (link: LinkPlan, kept: readonly Change[]): readonly StoreCondition[] => {
  if (kept.length === 0) return [];
  const { columns } = holderOf(link);
  const these = kept.map((change): StoreCondition => {
    const of = Object.entries(keptValues(link, change)).flatMap(([name, value]) => {
      const column = columns.find((candidate) => candidate.name === name);
      return column === undefined ? [] : [comparison(column, 'equals', value)];
    });
    return freeze({ kind: 'all', of: freeze(of) });
  });
  return [freeze({ kind: 'not', of: freeze({ kind: 'any', of: freeze(these) }) })];
};

const EVERYTHING: ChangeRules = new Map();

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

  constructor(model: LinkedEntities, terms: ChangeTerms) {
    const { rules = EVERYTHING, stamp } = stampedTerms(terms);
    this.#tests = new RuleTests(rules);
    this.#stamp = stamp;
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
      else if (step.kind !== 'refuse') for (const flow of step.flows) need(flow);
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
      ...linksBefore(linked).flatMap((link) => this.#insertBefore(link, changes, only)),
      ...owned,
    ];
    const stamps = { ...startsOf(linked.entity), ...this.#stamps(linked.entity, 'create', 'change') };
    const rows = freeze(changes.map((change) => freeze({ ...stamps, ...ownValues(linked.entity, change) })));
    const step: InsertStep = { kind: 'insert', entity, rows, flows: freeze(flows), needs: [], only };
    const said = changes.map((change) => ownValues(linked.entity, change));
    for (const link of namingLinks(linked))
      this.#addReference(linked.entity, link, { rows: said, flows }, only);
    const made = this.#add(step);
    this.#tests.changed(linked.entity, made, only);
    for (const link of linksBehind(linked)) this.#insertBehind(link, changes, made, only);
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

  /** The rows behind a link of rows that an earlier step has made or found. */
  #insertBehind(link: LinkPlan, changes: readonly Change[], owners: number, only: Only | null): void {
    const inner: Inner[] = [];
    changes.forEach((change, owner) => {
      for (const item of changesBehind(link, change)) inner.push({ change: item, owner });
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
    this.#insertMiddle(link, known, flows, only);
  }

  /** Rows that join others: whether or not they have links of their own, they name those that they lead to. */
  #insertMiddle(link: LinkPlan, rows: readonly Values[], flows: readonly Flow[], only: Only | null): void {
    const { name } = holderOf(link);
    const linked = this.linked(name);
    const onward = fromMiddle(link);
    const isNamed = namingLinks(linked).some(
      ({ target, from }) => target === onward.target && from.join() === onward.from.join(),
    );
    if (!isNamed) this.#addReference(linked.entity, onward, { rows, flows }, only);
    this.insert(name, rows, flows, only);
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

  #addReference(entity: EntityPlan, link: LinkPlan, naming: Naming, only: Only | null): void {
    const reference = this.#tests.reference(entity, link, naming, only);
    if (reference !== null) this.#add(reference);
  }

  /** Sets what a change names of the row that a step finds, and of those around it. */
  amend(entity: string, found: number, change: Change, only: Only | null): void {
    const linked = this.linked(entity);
    this.#addTest(this.#tests.before(linked.entity, found, only));
    const flows = linksBefore(linked)
      .filter(({ name }) => name in change)
      .map((link) => this.#amendBefore(link, found, change[link.name] as Change, only));
    const isNothing = Object.keys(change).length === 0;
    const stamps = isNothing ? {} : this.#stamps(linked.entity, 'change');
    const counts = isNothing ? freeze([]) : countedIn(linked.entity);
    const said = ownValues(linked.entity, change);
    const set = freeze({ ...stamps, ...said });
    for (const link of namingLinks(linked)) {
      // A part of what leads on may stay as it is in the row.
      const kept = link.from.filter((name) => !(name in said));
      const row = flowOfOne(kept, found, kept);
      this.#addReference(linked.entity, link, { rows: [said], flows: [row, ...flows] }, only);
    }
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
    this.#tests.changed(linked.entity, owners, only);
    for (const link of linksBehind(linked)) {
      if (!(link.name in change)) continue;
      if (link.kind === 'toOne') {
        this.#keep(link, owners, change[link.name] as Change, NO_VALUES, only);
        continue;
      }
      this.#replace(link, found, owners, changesBehind(link, change), only);
    }
  }

  /** The rows of a nested to-many input take the place of those that were there; a row whose key is given stays. */
  #replace(
    link: LinkPlan,
    found: number,
    owners: number,
    changes: readonly Change[],
    only: Only | null,
  ): void {
    const kept = inKeyOrder(
      holderOf(link).columns,
      changes.filter((change) => staysBehind(link, change)),
      (change, column) => keptValues(link, change)[column],
    );
    this.#refuseTwice(link, kept, only);
    this.#clear(link, found, kept, only);
    for (const change of kept) this.#keep(link, owners, change, keptValues(link, change), only);
    const others = changes.filter((change) => !kept.includes(change));
    this.#insertBehind(link, [{ [link.name]: others }], owners, only);
  }

  /** No row of a list is named twice: it could only be one of the two. */
  #refuseTwice(link: LinkPlan, kept: readonly Change[], only: Only | null): void {
    const { name, columns, key } = holderOf(link);
    const said = kept.map((change) => keyText(columns, keptValues(link, change)));
    if (new Set(said).size === said.length) return;
    this.#add({ kind: 'refuse', entity: name, refusal: freeze({ kind: 'duplicate', columns: key }), only });
  }

  /**
   * A row that holds the key of one that was made or found is changed where it is there, and made where it is not.
   *
   * @param values what it is known by besides
   */
  #keep(link: LinkPlan, owners: number, change: Change, values: Values, only: Only | null): void {
    const { target, through, from } = link;
    const entity = holderOf(link).name;
    const holding = holdingOf(link);
    const flow = flowOfOne(holding, owners, from);
    const by = [...new Set([...holding, ...Object.keys(values)])];
    const there = this.find(entity, by, freeze(values), [flow], only);
    const isThere = (is: boolean): Only => freeze({ step: there, found: is });
    if (through !== null) {
      this.#insertMiddle(link, [values], [flow], isThere(false));
      return;
    }
    // What it is found by stays as it is: it belongs to its owner.
    const rest = Object.fromEntries(Object.entries(change).filter(([name]) => !by.includes(name)));
    this.amend(target.name, there, rest, isThere(true));
    // A key that the database makes is none that a caller chooses.
    const isMade = target.columns.some(({ name, generated }) => generated && name in values);
    if (!isMade) {
      this.insert(target.name, [change], [flow], isThere(false));
      return;
    }
    const refusal = this.#tests.absent(target);
    this.#add({ kind: 'refuse', entity: target.name, refusal, only: isThere(false) });
  }

  /** The row behind a to-one link is changed where it is there, and made where it is not. */
  #amendBefore({ target, from, to }: LinkPlan, found: number, change: Change, only: Only | null): Flow {
    const owner = flowOfOne(to, found, from);
    const behind = this.find(target.name, to, NO_VALUES, [owner], only);
    this.amend(target.name, behind, change, freeze({ step: behind, found: true }));
    const step = this.insert(target.name, [change], [], freeze({ step: behind, found: false }));
    return flowOfOne(from, step, to);
  }

  /** Removes the rows behind a link, but for those that stay. */
  #clear(link: LinkPlan, found: number, kept: readonly Change[], only: Only | null): void {
    const { target, through, from } = link;
    const entity = holderOf(link);
    const flow = flowOfOne(holdingOf(link), found, from);
    this.#addTest(this.#tests.taken(entity, flow, only));
    // What the caller does not see stays: it is not there.
    const beyond =
      through === null ? [] : this.#tests.seen(target).map((see) => behind([fromMiddle(link)], see));
    const where = freeze([...this.#tests.seen(entity), ...beyond, ...notThese(link, kept)]);
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
    const flow = flowOfOne(key, found, key);
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
