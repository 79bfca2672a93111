import type { EnvelopeBody } from '../declare/types/shape-types.js';
import { RequestError, type RequestIssue } from '../errors/request-error.js';
import type { SortKey } from '../plan/condition.js';
import { contentShape, type EnvelopePlan, type PageSettings } from '../plan/declared.js';
import { dottedName } from '../plan/dotted-name.js';
import type { ColumnPlan } from '../plan/entity-plan.js';
import { wholeOrder } from '../plan/whole-order.js';
import { fromBase64Url, toBase64Url } from '../util/base64url.js';
import { freeze } from '../util/freeze.js';
import { accepting } from '../values/accept.js';
import { fromJson } from '../values/from-json.js';
import { jsonReady } from '../values/kinds.js';
import { orderedValue } from '../values/satisfies.js';

/** What a caller says about the page it wants, as the text it sent. */
export interface PageQuery {
  /** The page's number, from 1; of pages by number. */
  readonly page?: string;
  /** Rows on a page. */
  readonly size?: string;
  /** The cursor that an earlier page gave as `next`; of pages by cursor. */
  readonly after?: string;
}

/** A page that can be loaded. */
export interface WantedPage {
  readonly size: number;
  /** From 1; always 1 where pages go by cursor. */
  readonly number: number;
  /** The values of the last row before it, in the order of the page's columns; null: from the first row. */
  readonly after: readonly unknown[] | null;
}

/** Far enough for every table, and still a whole number that databases take as an offset. */
const FURTHEST = 1_000_000_000;

const settingsOf = (plan: EnvelopePlan): PageSettings => {
  if (plan.page !== null) return plan.page;
  throw new RequestError([
    { parameter: 'page', code: 'unknown', value: '', message: 'This list has no pages.' },
  ]);
};

/** A whole number within bounds, or the issue that says which. */
const wholeNumber = (parameter: string, text: string, most: number): number | RequestIssue => {
  const value = /^\d{1,10}$/.test(text) ? Number(text) : Number.NaN;
  if (value >= 1 && value <= most) return value;
  const code = Number.isNaN(value) ? 'type' : 'range';
  const message = `${parameter} must be a whole number from 1 to ${most}.`;
  return freeze({ parameter, code, value: text.slice(0, 40), message });
};

/** A value of a cursor, as JSON holds it: a row from a store may hold days and big numbers in another form. */
const encoded = ({ type }: ColumnPlan, value: unknown): unknown =>
  value === null || value === undefined ? value : jsonReady(type, accepting(type)(value));

/** The column's value back from a cursor; undefined where it is none. */
const decoded = ({ path, column, shown }: SortKey, value: unknown): unknown => {
  if (value === null) return column.nullable || shown !== null || path.length > 0 ? null : undefined;
  return fromJson(column.type, value);
};

/** What the order of a page is called inside its cursors: one made for another order is refused. */
const orderName = (sort: readonly SortKey[]): string =>
  sort
    .map(({ path, column, descending }) => {
      const name = dottedName(path, column);
      return descending ? `${name} desc` : name;
    })
    .join();

/** The order of a page where the caller chose none. */
const declaredOrder = (plan: EnvelopePlan): readonly SortKey[] => plan.page?.sort ?? [];

const orderOf = (plan: EnvelopePlan, sort: readonly SortKey[]): readonly SortKey[] =>
  wholeOrder(contentShape(plan).entity, sort);

/** Longer ones are not even looked at: they would hold more text than a list is sorted by. */
const LONGEST_CURSOR = 65_536;

const parsed = (cursor: string): unknown => {
  const text = cursor.length > LONGEST_CURSOR ? undefined : fromBase64Url(cursor);
  try {
    return text === undefined ? undefined : JSON.parse(text);
  } catch {
    return undefined;
  }
};

const valuesOf = (
  plan: EnvelopePlan,
  sort: readonly SortKey[],
  cursor: string,
): readonly unknown[] | RequestIssue => {
  const order = orderOf(plan, sort);
  const content = parsed(cursor);
  if (Array.isArray(content) && content.length === order.length + 1 && content[0] === orderName(sort)) {
    const values = order.map((key, i) => decoded(key, content[i + 1]));
    if (!values.includes(undefined)) return freeze(values);
  }
  const message = 'after is no cursor of this list: take one that it gave as next, or leave it out.';
  return freeze({ parameter: 'after', code: 'unknown', value: cursor.slice(0, 40), message });
};

/**
 * Reads which page a caller wants, within what the body declares.
 *
 * @param body `page(shape)`, or one wrapped
 * @param query the text that the caller sent; what is left out is the first page of the declared size
 * @param sort the order, where the caller chose another than the body's
 * @returns the page's number and size, or the row after which it starts
 * @throws {RequestError} `REQUEST` where a number, a size or a cursor is none, or there are no pages
 * @example
 * wantedPage(page(VesselCard, { size: 20 }), { page: '3' }) // { number: 3, size: 20, after: null }
 */
export const wantedPage = (
  body: EnvelopeBody<unknown>,
  query: PageQuery,
  sort: readonly SortKey[] = declaredOrder(body.plan),
): WantedPage => {
  const settings = settingsOf(body.plan);
  const size = query.size === undefined ? settings.size : wholeNumber('size', query.size, settings.max);
  const number = query.page === undefined ? 1 : wholeNumber('page', query.page, FURTHEST);
  const after = query.after === undefined ? null : valuesOf(body.plan, sort, query.after);
  const issues = [size, number, after].filter((part) => isIssue(part));
  const stray = settings.by === 'cursor' ? 'page' : 'after';
  if (query[stray] !== undefined) {
    const message = `This list goes by ${settings.by}: leave out ${stray}.`;
    issues.push({ parameter: stray, code: 'unknown', value: (query[stray] ?? '').slice(0, 40), message });
  }
  if (issues.length > 0 || isIssue(size) || isIssue(number) || isIssue(after)) throw new RequestError(issues);
  return freeze({ size, number, after });
};

const isIssue = (part: unknown): part is RequestIssue =>
  typeof part === 'object' && part !== null && 'code' in part;

/**
 * The cursor of a row: what comes after it is the next page. Cursors are not secret, and not
 * signed: they hold the values of the columns that the page is ordered by.
 *
 * @param body `page(shape, { by: 'cursor' })`, or one wrapped
 * @param row the last row of a page, with the columns that `loadPlan(body)` names
 * @param sort the order, where the caller chose another than the body's
 * @example
 * cursorOf(page(VesselCard, { by: 'cursor', sort: ['name'] }), { id: 3, name: 'Anselma' })
 */
export const cursorOf = (
  body: EnvelopeBody<unknown>,
  row: object,
  sort: readonly SortKey[] = declaredOrder(body.plan),
): string => {
  const stored = row as Readonly<Record<string, unknown>>;
  const values = orderOf(body.plan, sort).map((key) => encoded(key.column, orderedValue(key, stored)));
  return toBase64Url(JSON.stringify([orderName(sort), ...values]));
};
