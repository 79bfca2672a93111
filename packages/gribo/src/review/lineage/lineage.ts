import type { ApiPlan, EndpointPlan } from '../../plan/api-plan.js';
import { audiencesAt } from '../../plan/audiences-at.js';
import type {
  ListSelection,
  RowCondition,
  SettledValue,
  StoreCondition,
  ThereIs,
} from '../../plan/condition.js';
import type { ConversionPlan } from '../../plan/conversion.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../../plan/entity-plan.js';
import type { InputField, InputPlan } from '../../plan/input-plan.js';
import { leavesOf } from '../../plan/leaves-of.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../../plan/resolved.js';
import { sayCondition } from '../../plan/say-condition.js';
import { cellsAt } from '../../resolve/matrix.js';
import { namesAsked, unasked } from '../../resolve/open-asks.js';
import { rulesFor, type SettledRules } from '../../resolve/rules-for.js';
import { settledInput } from '../../resolve/settle-input.js';
import { freeze } from '../../util/freeze.js';

/** What a column does on its way: docs/trace.md says for each what it means. */
export type FlowKind = 'sent' | 'converted' | 'computed' | 'decides' | 'rules' | 'orders' | 'filters' | 'set';

/** One way of a column in or out of an API. */
export interface Flow {
  readonly entity: string;
  readonly column: string;
  /** The label of its seal; null where it is open. */
  readonly sealed: string | null;
  readonly kind: FlowKind;
  /** The conversions that the value goes through, the first one first. */
  readonly conversions: readonly string[];
  /** Whether one of them makes of a sealed value what may be shown. */
  readonly lifted: boolean;
  readonly endpoint: string;
  /** The member's dotted name, `[]` standing for the items of a list; of a filter, the parameter. */
  readonly member: string;
  /** The names that have to be asked for. */
  readonly asks: readonly string[];
  /** What has to hold for the member to be there, in words; null: nothing besides what is asked. */
  readonly where: string | null;
  /** Null among them: callers of no audience. */
  readonly audiences: readonly (string | null)[];
}

/** A flow before it is known for whom it is. */
type BareFlow = Omit<Flow, 'audiences'>;

/** What is known on the way down to a member. */
interface Place {
  readonly endpoint: string;
  readonly member: string;
  readonly asks: readonly string[];
  readonly where: string | null;
  /** The entity of the row that members are read from. */
  readonly entity: EntityPlan;
}

const ended = (entity: EntityPlan, path: readonly LinkPlan[]): EntityPlan => path.at(-1)?.target ?? entity;

/** Gathers the flows of one body for one audience. */
class BodyFlows {
  readonly flows: BareFlow[] = [];
  readonly #rules: SettledRules;

  constructor(rules: SettledRules) {
    this.#rules = rules;
  }

  shape(shape: ResolvedShape, place: Place): void {
    const at = { ...place, entity: shape.entity };
    this.#seen(shape.entity, at);
    this.#fields(shape.fields, at);
  }

  /** What decides which rows of an entity there are. */
  #seen(entity: EntityPlan, place: Place): void {
    const see = this.#rules.get(entity.name)?.see ?? null;
    if (see !== null) this.rule(see, { ...place, entity });
  }

  rule(condition: RowCondition, place: Place): void {
    this.#condition(condition, place, 'rules');
  }

  #fields(fields: readonly ResolvedField[], place: Place): void {
    for (const { name, condition, node } of fields) {
      const member = place.member === '' ? name : `${place.member}.${name}`;
      const asks = [...new Set([...place.asks, ...(condition === null ? [] : namesAsked(condition))])];
      const at = { ...place, member, asks, where: whereOf(place, condition) };
      if (condition !== null) this.#condition(condition, at, 'decides');
      this.#node(node, at);
    }
  }

  #node(node: ResolvedNode, place: Place): void {
    switch (node.kind) {
      case 'group':
        return this.#fields(node.fields, place);
      case 'nested':
        return this.shape(node.shape, place);
      case 'first':
      case 'nestedList': {
        this.#selection(node.link, node.selection, place);
        const member = node.kind === 'first' ? place.member : `${place.member}[]`;
        return this.shape(node.shape, { ...place, member });
      }
      case 'column':
      case 'fact':
      case 'derived':
      case 'converted':
      case 'constant':
      case 'figure':
        return this.#value(node, 'sent', [], place);
      default:
        return node satisfies never;
    }
  }

  #value(node: SettledValue, kind: FlowKind, conversions: readonly ConversionPlan[], place: Place): void {
    switch (node.kind) {
      case 'column':
        return this.#add(ended(place.entity, node.path), node.column, kind, conversions, place);
      case 'converted': {
        const steps = [node.conversion, ...conversions];
        return this.#value(node.input, kind === 'sent' ? 'converted' : kind, steps, place);
      }
      case 'derived': {
        const inner = kind === 'decides' || kind === 'rules' ? kind : 'computed';
        for (const input of node.inputs) this.#value(input, inner, [], place);
        return;
      }
      case 'figure':
        this.#seen(node.link.target, place);
        if (node.of !== null)
          this.#add(node.link.target, node.of.column, kind === 'sent' ? 'computed' : kind, [], place);
        return this.#selection(node.link, node.selection, place);
      case 'fact':
      case 'constant':
        return;
      default:
        return node satisfies never;
    }
  }

  #selection({ target }: LinkPlan, { where, sort }: ListSelection, place: Place): void {
    const at = { ...place, entity: target };
    for (const condition of where) this.#condition(condition, at, 'decides');
    for (const { path, column, shown } of sort) {
      this.#add(ended(target, path), column, 'orders', [], place);
      if (shown !== null) this.#condition(shown, at, 'decides');
    }
  }

  #condition(condition: RowCondition, place: Place, kind: 'decides' | 'rules'): void {
    for (const leaf of leavesOf(condition)) {
      if (leaf.kind === 'thereIs') this.#behind(leaf, place, kind);
      if (leaf.kind === 'holds') for (const input of leaf.inputs) this.#value(input, kind, [], place);
      if (leaf.kind !== 'compares') continue;
      this.#value(leaf.left, kind, [], place);
      if (leaf.right.kind !== 'value') this.#value(leaf.right, kind, [], place);
    }
  }

  #behind({ link, selection }: ThereIs<StoreCondition>, place: Place, kind: 'decides' | 'rules'): void {
    const at = { ...place, entity: link.target };
    // Inside a rule, links lead to all rows.
    if (kind === 'decides') this.#seen(link.target, place);
    for (const condition of selection.where) this.#condition(condition, at, kind);
  }

  #add(
    entity: EntityPlan,
    column: ColumnPlan,
    kind: FlowKind,
    conversions: readonly ConversionPlan[],
    { endpoint, member, asks, where }: Place,
  ): void {
    // What is known about an answer is no column of anybody's.
    if (entity.kind === 'envelope') return;
    const isOut = kind === 'sent' || kind === 'converted' || kind === 'computed';
    this.flows.push(
      flowOf(entity, column, {
        kind,
        ...stepsOf(conversions),
        endpoint,
        member,
        asks,
        where: isOut ? where : null,
      }),
    );
  }
}

/** What must hold here, with what must hold around it; what is asked is told apart. */
const whereOf = ({ where }: Place, condition: RowCondition | null): string | null => {
  if (condition === null || unasked(condition) !== 'row') return where;
  const said = sayCondition(condition);
  return where === null ? said : `${where}, and ${said}`;
};

const stepsOf = (conversions: readonly ConversionPlan[]): Pick<Flow, 'conversions' | 'lifted'> => ({
  conversions: conversions.map(({ name }) => name),
  lifted: conversions.some(({ lifts }) => lifts),
});

const flowOf = (
  entity: EntityPlan,
  column: ColumnPlan,
  rest: Omit<BareFlow, 'entity' | 'column' | 'sealed'>,
): BareFlow => ({ entity: entity.name, column: column.name, sealed: column.sealed, ...rest });

/** What an input sets. */
const inputFlows = (input: InputPlan, endpoint: string): readonly BareFlow[] => {
  const walk = (entity: EntityPlan, fields: readonly InputField[], above: string): BareFlow[] =>
    fields.flatMap(({ name, node }) => {
      const member = above === '' ? name : `${above}.${name}`;
      if (node.kind === 'inputGroup') return walk(entity, node.fields, member);
      if (node.kind === 'nestedInput') {
        const items = node.link.kind === 'toMany' ? '[]' : '';
        return walk(node.input.entity, node.input.fields, member + items);
      }
      const steps = stepsOf(node.conversions);
      return [
        flowOf(entity, node.column, { kind: 'set', ...steps, endpoint, member, asks: [], where: null }),
      ];
    });
  return walk(input.entity, input.fields, '');
};

/** What a caller may look for or sort by, and the order of pages. */
const queryFlows = ({ name, entity, filters, sort, returns }: EndpointPlan): readonly BareFlow[] => {
  const paged = returns?.kind === 'envelope' ? (returns.page?.sort ?? []) : [];
  const rest = { ...stepsOf([]), endpoint: name, asks: [], where: null };
  return [
    ...filters.map((filter) =>
      flowOf(ended(entity, filter.path), filter.column, {
        ...rest,
        kind: 'filters',
        member: `?${filter.name}`,
      }),
    ),
    ...sort.map(({ path, column }) =>
      flowOf(ended(entity, path), column, { ...rest, kind: 'orders', member: '?sort' }),
    ),
    ...paged.map(({ path, column }) =>
      flowOf(ended(entity, path), column, { ...rest, kind: 'orders', member: 'the order of pages' }),
    ),
  ];
};

/** What decides which rows an endpoint may change, or see where it sends none. */
const changeFlows = (
  { name, method, entity, returns }: EndpointPlan,
  rules: SettledRules,
): readonly BareFlow[] => {
  const { see = null, change = null } = rules.get(entity.name) ?? {};
  const found = new BodyFlows(rules);
  const place: Place = { endpoint: name, member: '', asks: [], where: null, entity };
  if (method !== 'GET' && change !== null) found.rule(change, place);
  if (returns === null && see !== null) found.rule(see, place);
  return [...new Map(found.flows.map((flow) => [JSON.stringify(flow), flow])).values()];
};

/** Joins flows that differ in their audience only. */
class FlowTable {
  readonly #flows = new Map<string, { readonly flow: BareFlow; readonly audiences: (string | null)[] }>();

  add(flow: BareFlow, audience: string | null): void {
    const key = JSON.stringify(flow);
    const known = this.#flows.get(key) ?? { flow, audiences: [] };
    this.#flows.set(key, known);
    if (!known.audiences.includes(audience)) known.audiences.push(audience);
  }

  get all(): readonly Flow[] {
    return freeze([...this.#flows.values()].map(({ flow, audiences }) => freeze({ ...flow, audiences })));
  }
}

/**
 * Where every column gets out of an API, through which members and for whom, and where it gets in.
 * Members that have to be asked for are among them.
 *
 * @param api the API
 * @returns every way of a column, in the order of the endpoints
 * @example
 * lineage(harbour).filter(({ column }) => column === 'masterPhone').map(({ endpoint }) => endpoint).includes('vessels.read') // => true
 */
export const lineage = (api: { readonly plan: ApiPlan }): readonly Flow[] => {
  const table = new FlowTable();
  for (const endpoint of api.plan.endpoints) {
    const { name, takes, entity } = endpoint;
    for (const { audience, open } of cellsAt(api.plan, endpoint)) {
      const found = new BodyFlows(rulesFor(api.plan, audience));
      found.shape(open.shape, { endpoint: name, member: '', asks: [], where: null, entity });
      for (const flow of found.flows) table.add(flow, audience);
    }
    for (const audience of audiencesAt(endpoint, api.plan)) {
      for (const flow of changeFlows(endpoint, rulesFor(api.plan, audience))) table.add(flow, audience);
      for (const flow of queryFlows(endpoint)) table.add(flow, audience);
      // What stands in no table flows into no column.
      if (takes !== null && takes.entity.kind !== 'values')
        for (const flow of inputFlows(settledInput(takes, audience), name)) table.add(flow, audience);
    }
  }
  return table.all;
};
