import { behind } from '../plan/behind.js';
import type { StoreCondition } from '../plan/condition.js';
import type { EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import type { LinkedEntity } from '../plan/linked-entity.js';
import { freeze } from '../util/freeze.js';
import { comparison } from '../values/comparison.js';
import type { Flow, Only, Refusal, TestStep } from './change-plan.js';
import type { ChangeRule, ChangeRules } from './change-rules.js';

const present = (...conditions: readonly (StoreCondition | null)[]): readonly StoreCondition[] =>
  freeze(conditions.filter((condition) => condition !== null));

/** The way from a row in the middle of a many-to-many link to the one behind it. */
export const fromMiddle = ({ name, target, to, through }: LinkPlan): LinkPlan =>
  freeze({
    name: `${name} (behind)`,
    kind: 'toOne',
    owner: through?.entity.name ?? target.name,
    target,
    from: through?.to ?? to,
    to,
    reference: 'here',
    nullable: true,
    through: null,
  });

/** Writes down what must hold for the rows of a change, by the rules of whoever changes them. */
export class RuleTests {
  readonly #rules: ChangeRules;
  readonly #after: TestStep[] = [];

  constructor(rules: ChangeRules) {
    this.#rules = rules;
  }

  /** What is tested once everything is done: a rule may look at rows that come later. */
  get after(): readonly TestStep[] {
    return this.#after;
  }

  #ruleOf(entity: EntityPlan): ChangeRule | null {
    return this.#rules.get(entity.name) ?? null;
  }

  /** Which rows are there for the caller. */
  seen(entity: EntityPlan): readonly StoreCondition[] {
    return present(this.#ruleOf(entity)?.see ?? null);
  }

  /** What is told where a change names a row that is not there: the same as where it may not be changed. */
  absent(entity: EntityPlan): Refusal {
    const rule = this.#ruleOf(entity);
    return freeze(
      rule === null ? { kind: 'reference', columns: entity.key } : { kind: 'rule', about: rule.about },
    );
  }

  /** That a row that was found may be seen and changed. */
  before(entity: EntityPlan, step: number, only: Only | null): TestStep | null {
    const rule = this.#ruleOf(entity);
    if (rule === null) return null;
    const conditions = present(rule.see, rule.change);
    return this.#test(
      entity,
      this.#byKey(entity, step),
      [],
      conditions,
      { kind: 'rule', about: rule.about },
      only,
    );
  }

  /** That rows which take the place of others may do so: those that are seen there may be changed. */
  taken(entity: EntityPlan, flow: Omit<Flow, 'rows'>, only: Only | null): TestStep | null {
    const rule = this.#ruleOf(entity);
    if (rule === null || rule.change === null) return null;
    const refusal: Refusal = { kind: 'rule', about: rule.about };
    return this.#test(entity, flow, this.seen(entity), present(rule.change), refusal, only);
  }

  /** That rows which were made or changed may be seen and changed, and name none that the caller does not see. */
  changed(
    { entity, links }: LinkedEntity,
    step: number,
    set: (columns: readonly string[]) => boolean,
    only: Only | null,
  ): void {
    const rule = this.#ruleOf(entity);
    const flow = this.#byKey(entity, step);
    if (rule !== null) {
      const conditions = present(rule.see, rule.change);
      this.#later(this.#test(entity, flow, [], conditions, { kind: 'rule', about: rule.about }, only));
    }
    for (const link of links.values())
      if (link.reference === 'here' && set(link.from)) this.#named(entity, link, flow, only);
  }

  /** That rows in the middle of a link lead to none that the caller does not see. */
  named(link: LinkPlan, step: number): void {
    if (link.through !== null)
      this.#named(link.through.entity, fromMiddle(link), this.#byKey(link.through.entity, step), null);
  }

  #named(entity: EntityPlan, link: LinkPlan, flow: Omit<Flow, 'rows'>, only: Only | null): void {
    const see = this.#ruleOf(link.target)?.see ?? null;
    if (see === null) return;
    const refusal: Refusal = { kind: 'reference', columns: link.from };
    // What names nothing names nothing hidden: that is asked of the rows that do.
    const names = entity.columns
      .filter(({ name, nullable }) => nullable && link.from.includes(name))
      .map((column) => comparison(column, 'isNull', false));
    this.#later(this.#test(entity, flow, names, [behind([link], see)], refusal, only));
  }

  #byKey({ key }: EntityPlan, step: number): Omit<Flow, 'rows'> {
    return freeze({ columns: key, from: freeze({ step, columns: key }) });
  }

  #later(test: TestStep): void {
    this.#after.push(test);
  }

  #test(
    { name: entity }: EntityPlan,
    flow: Omit<Flow, 'rows'>,
    where: readonly StoreCondition[],
    conditions: readonly StoreCondition[],
    refusal: Refusal,
    only: Only | null,
  ): TestStep {
    return freeze({ kind: 'test', entity, flow, where, conditions, refusal: freeze(refusal), only });
  }
}
