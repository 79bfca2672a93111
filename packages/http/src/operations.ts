import {
  type Answer,
  cursorOf,
  type EndpointPlan,
  type Guard,
  type InputPlan,
  isAboutMany,
  type Key,
  type LoadPlan,
  loadPlan,
  type PageSettings,
  type RowQuery,
  type Situation,
  type SortKey,
  type WantedPage,
  wantedPage,
} from 'gribo';
import type { Exchange } from './exchange.js';
import { equalTo } from './key.js';
import { Problem } from './problems/problem.js';
import { checkUnchanged } from './request/preconditions.js';
import { entityTag } from './response/entity-tag.js';
import { planned, sending } from './response/sending.js';

/** What an operation leads to: data for the endpoint's body, or that there is none. */
export interface Outcome {
  /** A row, rows, or an answer; null where nothing is sent. */
  readonly data: unknown;
  /** The key of a row that was created. */
  readonly created: Key | null;
  /** The page that was sent. */
  readonly page: { readonly wanted: WantedPage; readonly answer: Answer; readonly hasMore: boolean } | null;
}

const plain = (data: unknown): Outcome => ({ data, created: null, page: null });

const notFound = (): Problem => new Problem(404, { detail: 'There is no such row.' });

/** What has to be loaded for the endpoint's body, and to go on after a row of a page. */
export const planFor = (exchange: Exchange, endpoint: EndpointPlan = exchange.endpoint): LoadPlan => {
  const { returns, entity } = endpoint;
  if (returns === null) throw new Error(`${endpoint.name} sends no body`);
  const plan = loadPlan(planned(returns), { ...exchange.situation, endpoint: endpoint.name });
  const missing = (exchange.query.sort ?? []).filter(
    ({ column }) => !plan.columns.some(({ name }) => name === column.name),
  );
  if (missing.length === 0) return plan;
  const more = entity.columns.filter(
    (column) =>
      plan.columns.some(({ name }) => name === column.name) || missing.some((key) => key.column === column),
  );
  return { ...plan, columns: more.map(({ name, stored, type }) => ({ name, stored, type })) };
};

const orderOf = (exchange: Exchange): readonly SortKey[] => {
  const { returns } = exchange.endpoint;
  const declared = returns?.kind === 'envelope' ? (returns.page?.sort ?? []) : [];
  return exchange.query.sort ?? declared;
};

const whereOf = (exchange: Exchange) => [...exchange.parent, ...exchange.query.where];

/** A child collection is there where its parent is. */
const checkParent = async ({ endpoint, parent, store }: Exchange): Promise<void> => {
  const { under } = endpoint;
  if (under === null) return;
  const { target, to } = under.link;
  const where = equalTo(
    target,
    to,
    parent.map(({ value }) => value),
  );
  if ((await store.count(target.name, where)) === 0) throw notFound();
};

const page = async (exchange: Exchange, settings: PageSettings): Promise<Outcome> => {
  const { endpoint, query, store } = exchange;
  const body = planned(endpoint.returns as NonNullable<EndpointPlan['returns']>);
  const pageBody = body as Parameters<typeof wantedPage>[0];
  const sort = orderOf(exchange);
  const wanted = wantedPage(pageBody, query.page, sort);
  const where = whereOf(exchange);
  const { size, number, after } = wanted;
  // One more than is sent tells whether there are others.
  const limits: RowQuery =
    after === null ? { limit: size + 1, offset: (number - 1) * size } : { limit: size + 1, after };
  const [found, total] = await Promise.all([
    store.list(planFor(exchange), { where, sort, ...limits }),
    settings.totals ? store.count(endpoint.entity.name, where) : null,
  ]);
  const hasMore = found.length > size;
  const items = hasMore ? found.slice(0, size) : found;
  const last = items.at(-1);
  const next =
    settings.by === 'cursor' && hasMore && last !== undefined ? cursorOf(pageBody, last, sort) : null;
  const answer: Answer = {
    items,
    size,
    total,
    number: settings.by === 'number' ? number : null,
    pages: settings.by === 'number' && total !== null ? Math.max(1, Math.ceil(total / size)) : null,
    next,
    previous: null,
  };
  return { data: answer, created: null, page: { wanted, answer, hasMore } };
};

/** Every row of a list, in an envelope. */
const wrapped = async (exchange: Exchange): Promise<Outcome> => {
  const { limits } = exchange.settings;
  const query: RowQuery = { where: whereOf(exchange), sort: orderOf(exchange), limit: limits.rows + 1 };
  const items = await exchange.store.list(planFor(exchange), query);
  if (items.length > limits.rows) {
    throw new Problem(500, { cause: new Error(`more than ${limits.rows} rows in an envelope: page it`) });
  }
  return plain({ items, total: items.length });
};

const list = async (exchange: Exchange): Promise<Outcome> => {
  const { endpoint, store } = exchange;
  await checkParent(exchange);
  const { returns } = endpoint;
  if (returns?.kind === 'envelope') {
    return returns.page === null ? wrapped(exchange) : page(exchange, returns.page);
  }
  return plain(store.stream(planFor(exchange), { where: whereOf(exchange), sort: orderOf(exchange) }));
};

/** A row as the body takes it: itself, or as the item of an answer. */
export const asData = (endpoint: EndpointPlan, row: object): unknown =>
  endpoint.returns?.kind === 'envelope' ? { item: row } : row;

const rowOf = async (exchange: Exchange, key: Key | null): Promise<object> => {
  const row = key === null ? null : await exchange.store.read(planFor(exchange), key, exchange.parent);
  if (row === null) throw notFound();
  return row;
};

const read = async (exchange: Exchange): Promise<Outcome> =>
  plain(asData(exchange.endpoint, await rowOf(exchange, exchange.key)));

/** The body that is sent after a change; null where none is. */
const changed = async (exchange: Exchange, key: Key): Promise<unknown> =>
  exchange.endpoint.returns === null ? null : asData(exchange.endpoint, await rowOf(exchange, key));

/** The situation in which the collection reads a row: nothing asked, all fields. */
const readingSituation = ({ audience }: Exchange, sibling: EndpointPlan): Situation => ({
  endpoint: sibling.name,
  ...(audience === null ? {} : { audience }),
});

/** The tags of a row as its collection would send it now, in every format. */
const currentTags = (exchange: Exchange, sibling: EndpointPlan, row: object): readonly string[] => {
  if (sibling.returns === null) return [];
  const content = sending(sibling.returns, readingSituation(exchange, sibling), asData(sibling, row));
  return exchange.settings.formats.flatMap(({ write, onlyLists }) =>
    write === undefined || onlyLists === true ? [] : [entityTag(write(content))],
  );
};

/** The key of a row and nothing else. */
const keyPlan = ({ name, table, key, columns }: EndpointPlan['entity']): LoadPlan => ({
  entity: name,
  table,
  key,
  columns: columns
    .filter((column) => column.key)
    .map(({ name: property, stored, type }) => ({ name: property, stored, type })),
  links: [],
  counts: [],
});

/** What must hold for a change: that the row is under its parent, and as its caller knows it. */
const guardOf = (exchange: Exchange): Guard => {
  const { request, sibling, parent, endpoint } = exchange;
  const ifMatch = request.headers.get('if-match');
  const mustBeNew = request.headers.get('if-none-match')?.trim() === '*';
  if (ifMatch === null && !mustBeNew) return { where: parent };
  const plan =
    sibling === null || sibling.returns === null
      ? keyPlan(endpoint.entity)
      : loadPlan(planned(sibling.returns), readingSituation(exchange, sibling));
  const row = (stored: object): void => {
    if (mustBeNew) throw new Problem(412, { detail: 'There is such a row already.' });
    if (ifMatch === null) return;
    checkUnchanged(ifMatch, () => (sibling === null ? [] : currentTags(exchange, sibling, stored)));
  };
  return { where: parent, check: { plan, row } };
};

/** Members that a replacement leaves out become null where they may be: nothing of the old row stays. */
const replacement = (plan: InputPlan, change: object): object => {
  const cleared = plan.fields.flatMap(({ node }): [string, null][] =>
    node.kind === 'set' && node.column.nullable && !(node.column.name in change)
      ? [[node.column.name, null]]
      : [],
  );
  return { ...Object.fromEntries(cleared), ...change };
};

/** The change with the columns that hold the parent's key. */
const underParent = ({ parent }: Exchange, change: object): object => ({
  ...change,
  ...Object.fromEntries(parent.map(({ column, value }) => [column.name, value])),
});

const create = async (exchange: Exchange, change: object): Promise<Outcome> => {
  await checkParent(exchange);
  const created = await exchange.store.create(exchange.endpoint.entity.name, underParent(exchange, change));
  return { data: await changed(exchange, created), created, page: null };
};

const amend = async (exchange: Exchange, change: object): Promise<Outcome> => {
  const { endpoint, key, store } = exchange;
  const done = key !== null && (await store.amend(endpoint.entity.name, key, change, guardOf(exchange)));
  if (!done || key === null) throw notFound();
  return plain(await changed(exchange, key));
};

const remove = async (exchange: Exchange): Promise<Outcome> => {
  const { endpoint, key, store } = exchange;
  const done = key !== null && (await store.remove(endpoint.entity.name, key, guardOf(exchange)));
  if (!done) throw notFound();
  return plain(null);
};

/** The operation that an endpoint of its own stands for; null where only a handler can tell. */
const impliedOperation = (endpoint: EndpointPlan): EndpointPlan['operation'] => {
  const { method, returns, takes, entity, parameters } = endpoint;
  if (method !== 'GET' || returns === null || takes !== null) return null;
  if (isAboutMany(returns)) return parameters.length === 0 ? 'list' : null;
  return entity.key.every((name) => parameters.includes(name)) ? 'read' : null;
};

/** What an endpoint does where no handler says otherwise; null where it needs one. */
export const operationOf = (endpoint: EndpointPlan): EndpointPlan['operation'] => {
  const operation = endpoint.operation ?? impliedOperation(endpoint);
  const needsInput = operation === 'create' || operation === 'replace' || operation === 'amend';
  return needsInput && endpoint.takes === null ? null : operation;
};

/**
 * Does what an endpoint stands for.
 *
 * @param change what the request's body sets; null where the endpoint takes none
 * @throws {Problem} 404, 412; {ConflictError} where the store does not take the change
 */
export const operate = async (exchange: Exchange, change: object | null): Promise<Outcome> => {
  const { endpoint } = exchange;
  const operation = operationOf(endpoint);
  switch (operation) {
    case 'list':
      return list(exchange);
    case 'read':
      return read(exchange);
    case 'create':
      return create(exchange, change ?? {});
    case 'replace':
      return amend(exchange, endpoint.takes === null ? {} : replacement(endpoint.takes, change ?? {}));
    case 'amend':
      return amend(exchange, change ?? {});
    case 'remove':
      return remove(exchange);
    case null:
      throw new Error(`${endpoint.name} does nothing of itself: give serve() a handler for it`);
    default:
      return operation satisfies never;
  }
};
