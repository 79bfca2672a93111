import type { Contract, ContractEndpoint, ContractMember, ContractType, ContractValue } from 'gribo';
import type { Filled } from './form-state.js';

/** What a request's query asks: single parameters by name, and those that name several things. */
export interface AskedQuery {
  readonly values: Filled;
  readonly sort: readonly string[];
  readonly with: readonly string[];
  readonly fields: readonly string[];
  /** What stands in it besides, as it is. */
  readonly more: string;
}

export const NOTHING_ASKED: AskedQuery = { values: {}, sort: [], with: [], fields: [], more: '' };

/** A parameter of the query that has a field of its own. */
export interface QueryField {
  readonly name: string;
  readonly type: ContractValue;
  readonly hint: string;
  /** Several values may stand in it, with commas. */
  readonly isSeveral: boolean;
}

const isFor = (
  { audiences }: { readonly audiences?: readonly (string | null)[] },
  audience: string | null,
): boolean => audiences === undefined || audiences.includes(audience);

const COMPARES = {
  equals: 'is',
  oneOfThese: 'is one of these',
  atLeast: 'is at least',
  atMost: 'is at most',
  contains: 'contains',
  isNull: 'is there none',
} as const;

const WHOLE: ContractValue = { kind: 'integer' };
const YES_OR_NO: ContractValue = { kind: 'bool' };
const TEXT: ContractValue = { kind: 'text' };

const pageFields = ({ page }: ContractEndpoint): readonly QueryField[] => {
  if (page === undefined) return [];
  const size = {
    name: 'size',
    type: WHOLE,
    hint: `rows, up to ${page.max}; else ${page.size}`,
    isSeveral: false,
  };
  const which =
    page.by === 'number'
      ? { name: 'page', type: WHOLE, hint: 'which page, from 1', isSeveral: false }
      : { name: 'after', type: TEXT, hint: 'the cursor that came as next', isSeveral: false };
  return [size, which];
};

/** Every parameter of an endpoint's query that a caller of an audience may set to a value. */
export const queryFields = (endpoint: ContractEndpoint, audience: string | null): readonly QueryField[] => [
  ...(endpoint.query ?? [])
    .filter((member) => isFor(member, audience))
    .map(({ name, type, when, preset, about }) => ({
      name,
      type,
      hint:
        about ?? (when === 'preset' ? `left out: ${JSON.stringify(preset)}` : (when ?? 'it has to be there')),
      isSeveral: false,
    })),
  ...endpoint.filters
    .filter((filter) => isFor(filter, audience))
    .map(({ name, type, compares = 'equals' }) => ({
      name,
      type: compares === 'isNull' ? YES_OR_NO : compares === 'contains' ? TEXT : type,
      hint: COMPARES[compares],
      isSeveral: compares === 'oneOfThese',
    })),
  ...pageFields(endpoint),
];

/** What may be sorted by, each way. */
export const sortsOf = (endpoint: ContractEndpoint, audience: string | null): readonly string[] =>
  endpoint.sort.filter((sort) => isFor(sort, audience)).flatMap(({ name }) => [name, `${name} desc`]);

const membersInside = (
  type: ContractType<ContractMember>,
  { shapes }: Contract,
): readonly ContractMember[] => {
  if (type.kind === 'group') return type.members;
  return type.kind === 'object' || type.kind === 'list' ? (shapes[type.of]?.members ?? []) : [];
};

/** The members of the rows themselves: of a page, those of its items. */
const rowMembers = (members: readonly ContractMember[], entity: string | null, contract: Contract) => {
  if (entity !== null) return members;
  const around = members.find(({ type }) => type.kind === 'list' || type.kind === 'object');
  return around === undefined ? [] : membersInside(around.type, contract);
};

/** The members that `fields` may name, those inside others with dots. */
export const fieldNames = (
  endpoint: ContractEndpoint,
  audience: string | null,
  contract: Contract,
): readonly string[] => {
  const variant = endpoint.returns?.variants.find(({ audiences }) => audiences.includes(audience));
  const shape = contract.shapes[variant?.shape ?? ''];
  if (shape === undefined) return [];
  return rowMembers(shape.members, shape.entity, contract).flatMap(({ name, type }) => [
    name,
    ...membersInside(type, contract).map((inner) => `${name}.${inner.name}`),
  ]);
};

/** The query as it stands in an address; empty where nothing is asked. */
export const queryText = ({ values, sort, with: asked, fields, more }: AskedQuery): string => {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(values)) if (value !== '') query.set(name, value);
  for (const [name, names] of Object.entries({ sort, with: asked, fields }))
    if (names.length > 0) query.set(name, names.join(','));
  // What people read: commas and spaces need no code of their own in a query.
  const text = query.toString().replaceAll('%2C', ',');
  return [text, more.replace(/^\?/, '')].filter((part) => part !== '').join('&');
};
