import { cursorOf, type EnvelopeData, wantedPage } from 'gribo';
import type { EndpointPlan, PageSettings, RowQuery } from 'gribo/kit';
import { Problem } from '../problems/problem.js';
import { planned } from '../response/outgoing-body.js';
import { checkParent } from './check-parent.js';
import type { Exchange } from './exchange.js';
import { type Outcome, plain } from './outcome.js';
import { orderOf, planFor } from './plan-for.js';

const whereOf = (exchange: Exchange) => [...exchange.where, ...exchange.query.where];

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
    settings.by === 'cursor' && hasMore && last !== undefined
      ? cursorOf(pageBody, last, store.order(sort))
      : null;
  const data: EnvelopeData = {
    items,
    size,
    total,
    number: settings.by === 'number' ? number : null,
    pages: settings.by === 'number' && total !== null ? Math.max(1, Math.ceil(total / size)) : null,
    next,
    previous: null,
  };
  return { data, created: null, page: { wanted, data, hasMore } };
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

/** The rows of a list: a page of them, all in an envelope, or one after the other. */
export const listRows = async (exchange: Exchange): Promise<Outcome> => {
  const { endpoint, store } = exchange;
  await checkParent(exchange);
  const { returns } = endpoint;
  if (returns?.kind === 'envelope') {
    return returns.page === null ? wrapped(exchange) : page(exchange, returns.page);
  }
  return plain(store.stream(planFor(exchange), { where: whereOf(exchange), sort: orderOf(exchange) }));
};
