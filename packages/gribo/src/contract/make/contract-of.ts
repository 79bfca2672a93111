import type { ApiPlan, EndpointPlan, FilterParameter } from '../../plan/api-plan.js';
import { audiencesAt } from '../../plan/audiences-at.js';
import { type BodyPlan, isAboutMany, type ShapePlan } from '../../plan/declared.js';
import type { ColumnPlan } from '../../plan/entity-plan.js';
import { cellsAt } from '../../resolve/matrix.js';
import { rulesFor } from '../../resolve/rules-for.js';
import { settledInput } from '../../resolve/settle-input.js';
import { settledQuery } from '../../resolve/settle-query.js';
import { freeze } from '../../util/freeze.js';
import { keptBy } from '../../util/kept-by.js';
import {
  CONTRACT_LAYOUT,
  type Contract,
  type ContractEndpoint,
  type ContractParameter,
  type ContractQueryMember,
  type ContractRows,
  type ContractSort,
  type ContractTaken,
  type ContractVariant,
} from '../contract.js';
import { contractValue } from './contract-value.js';
import { describeCondition } from './describe-condition.js';
import { memberOf } from './describe-input.js';
import { InputCatalog } from './input-catalog.js';
import { ShapeCatalog } from './shape-catalog.js';

/** Freezes plain data with all that is in it. */
const frozen = <T>(value: T): T => {
  if (typeof value !== 'object' || value === null || Object.isFrozen(value)) return value;
  for (const inner of Object.values(value)) frozen(inner);
  return Object.freeze(value);
};

const columnNamed = (columns: readonly ColumnPlan[], name: string | undefined): ColumnPlan | undefined =>
  columns.find((column) => column.name === name);

const pathParameters = ({ parameters, entity, under }: EndpointPlan): readonly ContractParameter[] =>
  parameters.flatMap((name) => {
    const place = under?.parameters.indexOf(name) ?? -1;
    const column =
      under !== null && place >= 0
        ? columnNamed(under.link.target.columns, under.link.to[place])
        : columnNamed(entity.columns, name);
    return column === undefined ? [] : [{ name, type: contractValue(column.type) }];
  });

const filterParameter = ({ name, column, operator }: FilterParameter): ContractParameter => ({
  name,
  type: operator === 'isNull' ? { kind: 'bool' } : contractValue(column.type),
  compares: operator,
});

/** The media types that a file may be of; null where they are not known before. */
const fileTypes = ({ fields }: ShapePlan): readonly string[] | null => {
  const type = fields.find(({ name }) => name === 'type')?.node;
  if (type === undefined) return ['application/octet-stream'];
  if (type.kind === 'constant') return [String(type.value)];
  return type.kind === 'column' && type.column.type.kind === 'oneOf' ? type.column.type.choices : null;
};

/** What an endpoint sends, and the names that can be asked for. */
interface Returned {
  readonly variants: readonly ContractVariant[];
  readonly asks: readonly string[];
}

/** Describes the endpoints of one API. */
class ContractBuilder {
  readonly #inputs = new InputCatalog();
  readonly #plan: ApiPlan;
  #shapes = new ShapeCatalog();

  constructor(plan: ApiPlan) {
    this.#plan = plan;
  }

  build(): Contract {
    const { title, version, edition, audiences, endpoints } = this.#plan;
    // Inputs choose their names first: they have fewer variants than shapes.
    for (const endpoint of endpoints) this.#taken(endpoint);
    this.#shapes = new ShapeCatalog(this.#inputs.inputs.keys());
    const described = endpoints.map((endpoint) => this.#endpoint(endpoint));
    return frozen({
      layout: CONTRACT_LAYOUT,
      title,
      version,
      ...(edition === null ? {} : { edition: edition.name }),
      audiences: [...audiences],
      endpoints: described,
      shapes: this.#shapes.shapes(),
      inputs: Object.fromEntries(this.#inputs.inputs),
    });
  }

  #endpoint(endpoint: EndpointPlan): ContractEndpoint {
    const { name, method, path, operation, entity, about, audiences, deprecated } = endpoint;
    const { takes, takesMany, returns } = endpoint;
    const page = returns?.kind === 'envelope' ? returns.page : null;
    const isFile = endpoint.sends === 'file';
    const returned = returns === null || isFile ? null : this.#returned(endpoint, returns);
    return {
      name,
      method,
      path,
      ...(operation === null ? {} : { operation }),
      ...(entity.kind === 'values' ? {} : { entity: entity.name }),
      ...(about === null ? {} : { about }),
      ...(audiences === null ? {} : { audiences }),
      ...(deprecated === null ? {} : { deprecated }),
      parameters: pathParameters(endpoint),
      ...this.#query(endpoint),
      ...this.#told(endpoint),
      ...this.#problems(endpoint),
      asks: returned?.asks ?? [],
      ...(page === null ? {} : { page: { by: page.by, size: page.size, max: page.max } }),
      ...this.#rows(endpoint),
      ...(takes === null ? {} : { takes: this.#taken(endpoint) }),
      ...(takesMany ? { takesMany: true as const } : {}),
      ...this.#files(endpoint),
      ...(returns === null || returned === null
        ? {}
        : {
            returns: { many: returns.kind === 'list' && isAboutMany(returns), variants: returned.variants },
          }),
    };
  }

  /** What callers may look for and sort by, each with those for whom it is there. */
  #query(endpoint: EndpointPlan): Pick<ContractEndpoint, 'filters' | 'sort'> {
    const all = audiencesAt(endpoint, this.#plan);
    const forWhom = (name: string, kind: 'filters' | 'sort'): Pick<ContractSort, 'audiences'> => {
      const audiences = all.filter((audience) =>
        settledQuery(endpoint, audience)[kind].some((parameter) => parameter.name === name),
      );
      return audiences.length === all.length ? {} : { audiences };
    };
    return {
      filters: endpoint.filters.map((filter) => ({
        ...filterParameter(filter),
        ...forWhom(filter.name, 'filters'),
      })),
      sort: endpoint.sort.map(({ name }) => ({ name, ...forWhom(name, 'sort') })),
    };
  }

  /** What the query is told besides, each with those for whom it is there. */
  #told(endpoint: EndpointPlan): Pick<ContractEndpoint, 'query'> {
    const { query } = endpoint;
    if (query === null) return {};
    const all = audiencesAt(endpoint, this.#plan);
    const members = query.fields.flatMap((field): ContractQueryMember[] => {
      const audiences = all.filter((audience) =>
        settledInput(query, audience).fields.some(({ name }) => name === field.name),
      );
      // What it is of is a single value: that is checked where it is declared.
      const member = memberOf(
        field,
        (input) => this.#inputs.nameOf(input, null),
        false,
      ) as ContractQueryMember;
      return audiences.length === 0
        ? []
        : [{ ...member, ...(audiences.length === all.length ? {} : { audiences }) }];
    });
    return { query: members };
  }

  #files({ files, sends, returns }: EndpointPlan): Pick<ContractEndpoint, 'files' | 'file'> {
    const taken = files.map(({ name, types, max, optional, about }) => ({
      name,
      ...(types === null ? {} : { types }),
      max,
      ...(optional ? { optional: true as const } : {}),
      ...(about === null ? {} : { about }),
    }));
    const types = sends === 'file' && returns?.kind === 'shape' ? fileTypes(returns) : null;
    return {
      ...(taken.length === 0 ? {} : { files: taken }),
      ...(sends === 'file' ? { file: types === null ? {} : { types } } : {}),
    };
  }

  #problems({ problems }: EndpointPlan): Pick<ContractEndpoint, 'problems'> {
    if (problems.length === 0) return {};
    return {
      problems: problems.map(({ code, status, title, type, about, members }) => ({
        code,
        status,
        title,
        ...(type === null ? {} : { type }),
        ...(about === null ? {} : { about }),
        ...(members === null
          ? {}
          : {
              members: members.fields.map((field) =>
                memberOf(field, (input) => this.#inputs.nameOf(input, null), false),
              ),
            }),
      })),
    };
  }

  /** Which rows the row rule of the endpoint's entity leaves to whom. */
  #rows(endpoint: EndpointPlan): Pick<ContractEndpoint, 'rows' | 'rule'> {
    const { entity, method } = endpoint;
    const rule = this.#plan.rules.find((one) => one.entity === entity);
    if (rule === undefined) return {};
    const byText = new Map<string, Omit<ContractRows, 'audiences'> & { audiences: (string | null)[] }>();
    for (const audience of audiencesAt(endpoint, this.#plan)) {
      const { see = null, change = null } = rulesFor(this.#plan, audience).get(entity.name) ?? {};
      const changed = method === 'GET' ? null : change;
      const said = {
        ...(see === null ? {} : { see: describeCondition(see) }),
        ...(changed === null ? {} : { change: describeCondition(changed) }),
      };
      const key = JSON.stringify(said);
      const known = byText.get(key) ?? { audiences: [], ...said };
      if (key !== '{}') byText.set(key, known);
      known.audiences.push(audience);
    }
    if (byText.size === 0) return {};
    const isTold = rule.about !== null && [...byText.values()].some(({ change }) => change !== undefined);
    return { rows: [...byText.values()], ...(isTold ? { rule: rule.about } : {}) };
  }

  #taken(endpoint: EndpointPlan): readonly ContractTaken[] {
    const { takes } = endpoint;
    if (takes === null) return [];
    const byInput = new Map<string, (string | null)[]>();
    for (const audience of audiencesAt(endpoint, this.#plan)) {
      const input = this.#inputs.nameOf(settledInput(takes, audience), audience);
      byInput.set(input, [...(byInput.get(input) ?? []), audience]);
    }
    return [...byInput].map(([input, audiences]) => ({ audiences, input }));
  }

  #returned(endpoint: EndpointPlan, returns: BodyPlan): Returned {
    const page = returns.kind === 'envelope' ? returns.page : null;
    const byShape = new Map<string, (string | null)[]>();
    const asks = new Set<string>();
    for (const { audience, open } of cellsAt(this.#plan, endpoint)) {
      for (const name of open.asks) asks.add(name);
      const shape = this.#shapes.nameOf(open.shape, { endpoint: endpoint.name, audience, page });
      byShape.set(shape, [...(byShape.get(shape) ?? []), audience]);
    }
    const variants = [...byShape].map(([shape, audiences]) => ({ audiences, shape }));
    return { variants, asks: [...asks] };
  }
}

const contractOfPlan = keptBy((plan: ApiPlan): Contract => freeze(new ContractBuilder(plan).build()));

/**
 * An API as its callers know it, as data: every endpoint with what it takes, and with what it
 * sends to each audience. Keep it in the repository as JSON, and compare it after a change.
 *
 * @param api the API
 * @returns plain frozen data, the same object for the same API
 * @example
 * contractOf(harbour).endpoints.length // => 18
 */
export const contractOf = (api: { readonly plan: ApiPlan }): Contract => contractOfPlan(api.plan);
