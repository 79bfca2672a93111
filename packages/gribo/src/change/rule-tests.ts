import type { StoreCondition } from '../plan/condition.js';
import type { EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import { freeze } from '../util/freeze.js';
import type { Flow, Only, ReferenceStep, Refusal, TestStep, Values } from './change-plan.js';
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

/** What flows to these columns, as it is called on the other side. */
const towards = (flow: Flow, from: readonly string[], to: readonly string[]): Flow => {
  const places = flow.columns.flatMap((name, i) => (from.includes(name) ? [i] : []));
  return freeze({
    columns: freeze(places.map((i) => to[from.indexOf(flow.columns[i] ?? '')] ?? '')),
    from: freeze({ step: flow.from.step, columns: freeze(places.map((i) => flow.from.columns[i] ?? '')) }),
    rows: flow.rows,
  });
};

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

  /** That rows which were made or changed may be seen and changed. */
  changed(entity: EntityPlan, step: number, only: Only | null): void {
    const rule = this.#ruleOf(entity);
    if (rule === null) return;
    const conditions = present(rule.see, rule.change);
    const refusal: Refusal = { kind: 'rule', about: rule.about };
    this.#after.push(this.#test(entity, this.#byKey(entity, step), [], conditions, refusal, only));
  }

  /**
   * That the rows which others name by a link are there for the caller; null where it sees all of them, or none is named. Whether
   * anything makes sure that there is a row behind the link is of no matter: whom a rule hides a row from does not name it.
   *
   * @param rows what names them, by the names of its columns, and what flows to it
   */
  reference(
    entity: EntityPlan,
    { target, from, to }: LinkPlan,
    { rows, flows }: { readonly rows: readonly Values[]; readonly flows: readonly Flow[] },
    only: Only | null,
  ): ReferenceStep | null {
    const see = this.#ruleOf(target)?.see ?? null;
    // Rows that only flow here were made or found by the change itself.
    if (see === null || !rows.some((row) => from.some((name) => name in row))) return null;
    const known = rows.map((row) =>
      Object.fromEntries(
        to.flatMap((name, i) => ((from[i] ?? '') in row ? [[name, row[from[i] ?? name]]] : [])),
      ),
    );
    return freeze({
      kind: 'reference',
      entity: target.name,
      columns: to,
      rows: freeze(known),
      flows: freeze(flows.map((flow) => towards(flow, from, to)).filter(({ columns }) => columns.length > 0)),
      conditions: freeze([see]),
      namedBy: entity.name,
      refusal: freeze({ kind: 'reference', columns: from }),
      only,
    });
  }

  #byKey({ key }: EntityPlan, step: number): Omit<Flow, 'rows'> {
    return freeze({ columns: key, from: freeze({ step, columns: key }) });
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
