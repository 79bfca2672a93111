import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { RowRulePlan } from '../../plan/api-plan.js';
import type { ConditionNode } from '../../plan/condition.js';
import { freeze } from '../../util/freeze.js';
import { conditionOn, type DeclareCondition } from '../conditions/condition-on.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
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

/** Code cannot be run by a database, and what is asked is no matter of rights. */
const WRONG: Readonly<Record<string, string>> = {
  holds: 'a rule is run by the database: holds(…) is code, compare a column instead',
  asked: 'which rows a caller may see does not depend on what it asks for',
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
  const seen = conditionOn(bound, name, see as unknown as DeclareCondition, WRONG);
  const changed =
    options.change === undefined
      ? seen
      : conditionOn(bound, `${name}, change`, options.change as unknown as DeclareCondition, WRONG);
  if (isNode(seen) && isNode(changed)) {
    const { about = null } = options;
    return freeze({ plan: freeze({ entity, see: seen, change: changed, about }) });
  }
  const findings = [seen, changed].flatMap((made) => (isNode(made) ? [] : made));
  throw new DeclarationError(name, findings);
};
