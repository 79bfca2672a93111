import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { RowRulePlan } from '../../plan/api-plan.js';
import type { ConditionNode } from '../../plan/condition.js';
import { leavesOf } from '../../plan/leaves-of.js';
import { freeze } from '../../util/freeze.js';
import { conditionOf } from '../conditions/condition-of.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import { Broken } from '../references/member.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import type { Conditional, Row } from '../types/member-types.js';

/** A row rule as an API takes it. */
export interface RowRule {
  readonly plan: RowRulePlan;
}

export interface RowRuleOptions<M extends ModelTypes, K extends EntityName<M>> {
  /** Which rows a caller may change, tested before and after. Default: those that it sees. */
  readonly change?: (row: Row<M, K>) => Conditional;
  /** What the rule is, in a sentence: it is told to those whose change is refused. */
  readonly about?: string;
}

type Declare = (row: object) => unknown;

/** Code cannot be run by a database, and what is asked is no matter of rights. */
const WRONG: Readonly<Record<string, string>> = {
  holds: 'a rule is run by the database: holds(…) is code, compare a column instead',
  asked: 'which rows a caller may see does not depend on what it asks for',
};

/** The condition that a function of a row declares, or what is wrong with it. */
const declared = (
  over: Bound<ModelTypes, never>,
  place: string,
  declare: Declare,
): ConditionNode | Finding[] => {
  const row = rootRow(over);
  const built = conditionOf(declare(rowRef(row)));
  if (built instanceof Broken) return [...built.findings(place)];
  if (built.home !== null && built.home.origin !== row.home.origin)
    return [
      { path: place, message: 'the condition is about another row: use the one that the function is given' },
    ];
  const wrong = leavesOf(built.node).flatMap(({ kind }) => WRONG[kind] ?? []);
  return wrong.length === 0 ? built.node : wrong.map((message) => ({ path: place, message }));
};

const isNode = (made: ConditionNode | Finding[]): made is ConditionNode => !Array.isArray(made);

/**
 * Which rows of an entity a caller may see, and which it may change. Given to `api` as one of its `rows`, it holds wherever
 * rows of the entity go out or decide something: lists, single rows, nested rows, counts, filters, totals. What a caller may
 * not see is not there.
 *
 * @param over the entity
 * @param see given the row, a condition that is data: comparisons, `some(…)`, `audience(…)`, `all`, `any`, `not`
 * @param options `change`: which rows it may change, where these are not those that it sees; `about`: the rule in a sentence
 * @returns the rule
 * @throws {DeclarationError} `DECLARATION` where the condition is none, or is code
 * @example
 * rowRule(db.portCall, (c) => any(audience('harbourMaster'), not(equals(c.status, 'announced'))))
 */
export const rowRule = <M extends ModelTypes, K extends EntityName<M>>(
  over: Bound<M, K>,
  see: (row: Row<M, K>) => Conditional,
  options: RowRuleOptions<M, K> = {},
): RowRule => {
  const { entity } = over;
  const name = `rows of ${entity.name}`;
  // The row's types are for the compiler only.
  const bound = over as unknown as Bound<ModelTypes, never>;
  const seen = declared(bound, name, see as unknown as Declare);
  const changed =
    options.change === undefined
      ? seen
      : declared(bound, `${name}, change`, options.change as unknown as Declare);
  if (isNode(seen) && isNode(changed)) {
    const { about = null } = options;
    return freeze({ plan: freeze({ entity, see: seen, change: changed, about }) });
  }
  const findings = [seen, changed].flatMap((made) => (isNode(made) ? [] : made));
  throw new DeclarationError(name, findings);
};
