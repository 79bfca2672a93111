import type { EndpointPlan, RowRulePlan } from '../plan/api-plan.js';
import { behind } from '../plan/behind.js';
import type { ConditionNode } from '../plan/condition.js';
import { contentShape, type ShapePlan } from '../plan/declared.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import { ALWAYS, allOf, anyOf } from '../plan/joined.js';
import { NEVER } from '../plan/never.js';
import { freeze } from '../util/freeze.js';
import { type Way, waysOf } from './ways-of.js';

/** Rows that go out: those of an endpoint's body, or nested ones. */
export interface ShownRows {
  readonly entity: EntityPlan;
  readonly ways: readonly Way[];
}

const samePath = (one: readonly LinkPlan[], other: readonly LinkPlan[]): boolean =>
  one.length === other.length && one.every(({ name }, i) => name === other[i]?.name);

/** Every row of the entity that a caller may see goes out there, at one time or another. */
const isWhole = ({ operation, under, returns }: EndpointPlan): boolean =>
  (operation === 'list' || operation === 'read') && under === null && returns !== null;

/** Knows under which condition a caller sees a column of a row: through whatever endpoint it goes out. */
export class ShownColumns {
  readonly #endpoints: readonly EndpointPlan[];
  readonly #rules: ReadonlyMap<string, RowRulePlan>;
  readonly #ways = new Map<ShapePlan, Map<string, readonly Way[]>>();
  readonly #wholes = new Map<string, ConditionNode>();

  constructor(endpoints: readonly EndpointPlan[], rules: readonly RowRulePlan[]) {
    this.#endpoints = endpoints;
    this.#rules = new Map(rules.map((rule) => [rule.entity.name, rule]));
  }

  /** Whether the row that a link leads to may be hidden although it is there. */
  isRuled({ target, nullable }: LinkPlan): boolean {
    return !nullable && this.#rules.has(target.name);
  }

  /** The rows of a shape at an endpoint. */
  rowsOf(shape: ShapePlan, endpoint: string): ShownRows {
    const known = this.#ways.get(shape) ?? new Map<string, readonly Way[]>();
    this.#ways.set(shape, known);
    const ways = known.get(endpoint) ?? waysOf(shape, endpoint);
    known.set(endpoint, ways);
    return { entity: shape.entity, ways };
  }

  /** Where a column of rows is shown, of the rows themselves or behind to-one links. */
  at(rows: ShownRows, path: readonly LinkPlan[], column: ColumnPlan): ConditionNode {
    const last = path.at(-1);
    if (last === undefined)
      return column.key ? ALWAYS : anyOf(this.#of(rows, path, column), this.#whole(rows.entity, column));
    const owner = path.slice(0, -1);
    const own = this.#of(rows, path, column);
    if (own === ALWAYS) return own;
    const entity = owner.at(-1)?.target ?? rows.entity;
    const leads = allOf(...this.#columns(entity, last.from).map((from) => this.at(rows, owner, from)));
    const equal = this.#columns(
      entity,
      last.from.filter((_name, i) => last.to[i] === column.name),
    );
    return anyOf(
      own,
      ...equal.map((from) => this.at(rows, owner, from)),
      allOf(leads, behind(path, column.key ? ALWAYS : this.#whole(last.target, column))),
    );
  }

  /** Where it goes out with these rows. */
  #of({ ways }: ShownRows, path: readonly LinkPlan[], column: ColumnPlan): ConditionNode {
    return anyOf(
      ...ways.map((way) => {
        if (way.column === column && samePath(way.path, path)) return way.when;
        // A column behind a link is equal to the one that leads there, where that row is seen.
        const link = way.path.at(-1);
        if (link === undefined || link.through !== null || !samePath(way.path.slice(0, -1), path))
          return NEVER;
        const isEqual = link.from.some((name, i) => name === column.name && link.to[i] === way.column.name);
        if (!isEqual) return NEVER;
        const rule = this.#rules.get(link.target.name);
        return rule === undefined ? way.when : allOf(way.when, behind(way.path, rule.see));
      }),
    );
  }

  /** Where a column of an entity is shown wherever its rows go out by themselves. */
  #whole(entity: EntityPlan, column: ColumnPlan): ConditionNode {
    const key = `${entity.name}.${column.name}`;
    const known = this.#wholes.get(key);
    if (known !== undefined) return known;
    const shown = anyOf(
      ...this.#endpoints
        .filter((endpoint) => endpoint.entity === entity && isWhole(endpoint))
        .map((endpoint) => {
          const { returns, name, audiences } = endpoint;
          if (returns === null) return NEVER;
          const when = this.#of(this.rowsOf(contentShape(returns), name), [], column);
          return audiences === null ? when : allOf(freeze({ kind: 'audience', names: audiences }), when);
        }),
    );
    this.#wholes.set(key, shown);
    return shown;
  }

  #columns({ columns }: EntityPlan, names: readonly string[]): readonly ColumnPlan[] {
    return columns.filter(({ name }) => names.includes(name));
  }
}
