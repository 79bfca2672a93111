import type {
  ConditionNode,
  FactPlan,
  ListSelection,
  RowCondition,
  SettledValue,
  SortKey,
  StoreCondition,
  ValueNode,
} from '../plan/condition.js';
import type { DeclaredField, DeclaredNode, DeprecationNotice, ShapePlan } from '../plan/declared.js';
import { leavesOf } from '../plan/leaves-of.js';
import { NEVER } from '../plan/never.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../plan/resolved.js';
import type { Situation } from '../plan/situation.js';
import { freeze } from '../util/freeze.js';

/** What is left of a member: null where the situation leaves it out. */
type Settled = Omit<ResolvedField, 'name'> | null;

/** A condition: settled by the situation, or left to the row. */
type Verdict = boolean | RowCondition;

const always = (node: ResolvedNode): Settled => ({
  condition: null,
  unlessNull: false,
  deprecated: null,
  node,
});

/** The last part of a dotted name: `read` of `vessels.read`. */
export const lastPart = (endpoint: string): string => endpoint.slice(endpoint.lastIndexOf('.') + 1);

/** Rules come in later: nothing is asked of rows in the middle. */
const NONE: readonly StoreCondition[] = freeze([]);

/** What is known of a name that may be asked for: asked, not asked, or a condition that stays open. */
type Asking = (name: string) => Verdict;

/** Settles the members of shapes for one situation, each shape once. */
export class Resolver {
  /** The names whose asking makes a difference in this situation. */
  readonly asks: Set<string> = new Set();
  /** The facts about the caller that are used in this situation. */
  readonly #facts = new Set<FactPlan>();
  readonly #situation: Situation;
  readonly #staysOpen: boolean;
  readonly #done = new Map<ShapePlan, ResolvedShape>();

  /** @param staysOpen whether what may be asked for is kept, under conditions that say so */
  constructor(situation: Situation, staysOpen = false) {
    this.#situation = situation;
    this.#staysOpen = staysOpen;
  }

  get facts(): readonly FactPlan[] {
    return freeze([...this.#facts]);
  }

  /** The shape as it is in this situation. */
  shape(plan: ShapePlan): ResolvedShape {
    const known = this.#done.get(plan);
    if (known !== undefined) return known;
    const resolved: ResolvedShape = freeze({
      ...plan,
      kind: 'resolvedShape',
      fields: this.#fields(plan.fields),
    });
    this.#done.set(plan, resolved);
    return resolved;
  }

  #fields(fields: readonly DeclaredField[]): readonly ResolvedField[] {
    const kept: ResolvedField[] = [];
    for (const { name, node } of fields) {
      const settled = this.#settle(node);
      if (settled !== null) kept.push(freeze({ name, ...settled }));
    }
    return freeze(kept);
  }

  #settle(node: DeclaredNode): Settled {
    switch (node.kind) {
      case 'group':
        return always(freeze({ ...node, fields: this.#fields(node.fields) }));
      case 'nested':
        return always(freeze({ ...node, shape: this.shape(node.shape) }));
      case 'nestedList':
      case 'first': {
        const selection = this.#selection(node.selection);
        return always(freeze({ ...node, selection, shape: this.shape(node.shape) }));
      }
      case 'cases':
        return this.#case(node.cases, node.otherwise);
      case 'given':
        return this.#given(node.condition, node.node);
      case 'either':
        // Editions alone decide here, so it is settled.
        return this.#settle(this.verdict(node.condition) ? node.node : node.otherwise);
      case 'unsealed':
        return this.#isFor(node.audiences) ? this.#settle(node.node) : null;
      case 'unlessNull':
        return this.#with(this.#settle(node.node), { unlessNull: true });
      case 'deprecated':
        return this.#with(this.#settle(node.node), { deprecated: node.notice });
      default:
        return always(this.#value(node satisfies ValueNode));
    }
  }

  /** A value as it is here: what is counted may depend on the situation. */
  #value(node: ValueNode): SettledValue {
    switch (node.kind) {
      case 'fact':
        this.#facts.add(node.fact);
        return node;
      case 'derived':
        return freeze({ ...node, inputs: this.#values(node.inputs) });
      case 'converted':
        return freeze({ ...node, input: this.#value(node.input) });
      case 'figure':
        return freeze({ ...node, selection: this.#selection(node.selection) });
      default:
        return node;
    }
  }

  #values(nodes: readonly ValueNode[]): readonly SettledValue[] {
    return freeze(nodes.map((node) => this.#value(node)));
  }

  #selection(selection: ListSelection<ConditionNode>): ListSelection {
    // Where nothing is picked, there is no condition.
    if (selection.pick === null) return selection as ListSelection;
    const where = selection.where.flatMap((condition) => this.shown(condition) ?? []);
    const sort = selection.sort.map((key) => this.sortKey(key));
    return freeze({ ...selection, where: freeze(where), sort: freeze(sort) });
  }

  /** An order as it is here. */
  sortKey(key: SortKey<ConditionNode>): SortKey {
    return freeze({ ...key, shown: key.shown && this.shown(key.shown) });
  }

  /** Which rows a condition leaves, that is data: null where that is all of them. */
  shown(condition: ConditionNode): StoreCondition | null {
    const verdict = this.verdict(condition);
    if (verdict === true) return null;
    // Declarations let nothing else into it.
    return verdict === false ? NEVER : (verdict as StoreCondition);
  }

  #with(
    settled: Settled,
    change: { readonly unlessNull: boolean } | { readonly deprecated: DeprecationNotice },
  ): Settled {
    return settled === null ? null : { ...settled, ...change };
  }

  #isFor(audiences: readonly string[]): boolean {
    const { audience = null } = this.#situation;
    return audience !== null && audiences.includes(audience);
  }

  /** The full name decides before its last part, and that before `otherwise`. */
  #case(cases: readonly { endpoint: string; node: DeclaredNode }[], otherwise: DeclaredNode | null): Settled {
    const { endpoint } = this.#situation;
    const named = (name: string): DeclaredNode | undefined =>
      cases.find((candidate) => candidate.endpoint === name)?.node;
    const node =
      endpoint === undefined ? otherwise : (named(endpoint) ?? named(lastPart(endpoint)) ?? otherwise);
    return node === null ? null : this.#settle(node);
  }

  #given(wanted: ConditionNode, node: DeclaredNode): Settled {
    // What no asking can bring is not even looked at: its names are none of the caller's business.
    const open = this.verdict(wanted, (name) => freeze({ kind: 'asked', name }));
    if (open === false) return null;
    const settled = this.#settle(node);
    if (settled === null) return null;
    if (open !== true) for (const leaf of leavesOf(open)) if (leaf.kind === 'asked') this.asks.add(leaf.name);
    const verdict = this.#staysOpen ? open : this.verdict(wanted);
    if (verdict === false) return null;
    if (verdict === true) return settled;
    const { condition } = settled;
    const joined =
      condition === null ? verdict : freeze({ kind: 'all' as const, of: freeze([verdict, condition]) });
    return { ...settled, condition: joined };
  }

  /** A condition as it is here: settled, or what is left of it to the row. */
  verdict(
    condition: ConditionNode,
    asked: Asking = (name) => this.#situation.asked?.includes(name) ?? false,
  ): Verdict {
    switch (condition.kind) {
      case 'audience':
        return this.#isFor(condition.names);
      case 'edition':
        return condition.holds(this.#situation.edition);
      case 'asked':
        return asked(condition.name);
      case 'compares':
        if (condition.right.kind === 'fact') this.#facts.add(condition.right.fact);
        return condition;
      case 'holds':
        return freeze({ ...condition, inputs: this.#values(condition.inputs) });
      case 'thereIs':
        return freeze({ ...condition, selection: this.#selection(condition.selection), middle: NONE });
      case 'all':
      case 'any':
        return this.#joined(condition.kind, condition.of, asked);
      case 'not': {
        const verdict = this.verdict(condition.of, asked);
        return typeof verdict === 'boolean' ? !verdict : freeze({ ...condition, of: verdict });
      }
      default:
        return condition satisfies never;
    }
  }

  /** `all` is settled by one false, `any` by one true; what agrees with neither is left to the row. */
  #joined(kind: 'all' | 'any', conditions: readonly ConditionNode[], asked: Asking): Verdict {
    const settles = kind === 'any';
    const verdicts = conditions.map((condition) => this.verdict(condition, asked));
    if (verdicts.includes(settles)) return settles;
    const open = verdicts.filter((verdict) => typeof verdict !== 'boolean');
    const [only] = open;
    if (only === undefined) return !settles;
    return open.length === 1 ? only : freeze({ kind, of: freeze(open) });
  }
}
