import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { SortKey } from '../../plan/condition.js';
import type { ListPlan, PageSettings } from '../../plan/declared.js';
import { freeze } from '../../util/freeze.js';
import type { BoundEntity } from '../entity/model.js';
import type { SortBy } from '../members/some.js';
import { Broken } from '../references/member.js';
import { sortKey } from '../references/sort-key.js';
import type { CheckedPage } from '../types/checked-types.js';
import type { Nested, Optional, Value } from '../types/member-types.js';
import type { EnvelopeBody, Shape } from '../types/shape-types.js';
import { declareEnvelope, type EnvelopeInfo } from './envelope.js';

export interface PageOptions<M, K> {
  /** `number`, the default: the client asks for page 3. `cursor`: for what comes after the rows it has. */
  readonly by?: 'number' | 'cursor';
  /** Rows on a page where the client does not say. Default: 20. */
  readonly size?: number;
  /** The most rows it may ask for. Default: 100, or `size` where that is more. */
  readonly max?: number;
  /** Whether all rows are counted. Default: true by number, false by cursor. */
  readonly totals?: boolean;
  /** The order where the client does not say: `'name'`, or `'name desc'`. Default: by the key. */
  readonly sort?: readonly SortBy<M, K>[];
}

type Whole = Value<number, number>;
type Cursor = Value<string | null, string | null>;

/** What an option says, or its default: either where it may be left out. */
type Said<O, Name, Default> = Name extends keyof O
  ? undefined extends O[Name]
    ? Exclude<O[Name], undefined> | Default
    : O[Name]
  : Default;

/** What is said about all pages: nothing where they are not counted, perhaps where that is not known. */
type Totals<Counted, M> = boolean extends Counted
  ? { readonly [N in keyof M]: Optional<M[N]> }
  : Counted extends true
    ? M
    : unknown;

/** What is said about one page. */
type AboutPage<By, O> = By extends 'cursor'
  ? { readonly size: Whole; readonly next: Cursor; readonly previous: Cursor } & Totals<
      Said<O, 'totals', false>,
      { readonly total: Whole }
    >
  : { readonly number: Whole; readonly size: Whole } & Totals<
      Said<O, 'totals', true>,
      { readonly total: Whole; readonly pages: Whole }
    >;

/** The members of a page. */
export type PageFields<F, O> = {
  readonly items: Nested<F, 'many'>;
  readonly page: AboutPage<Said<O, 'by', 'number'>, O>;
};

interface LooseOptions {
  readonly by?: 'number' | 'cursor';
  readonly size?: number;
  readonly max?: number;
  readonly totals?: boolean;
  readonly sort?: readonly string[];
}

const isCount = (value: number): boolean => Number.isInteger(value) && value >= 1;

const settingsOf = (over: BoundEntity, list: ListPlan, options: LooseOptions, name: string): PageSettings => {
  const { by = 'number', size = 20 } = options;
  const { max = Math.max(100, size), totals = by === 'number' } = options;
  const findings: Finding[] = [];
  if (!isCount(size))
    findings.push({ path: name, message: `size must be a whole number of 1 or more, got ${size}` });
  if (!isCount(max) || max < size)
    findings.push({ path: name, message: `max must be ${size} or more, got ${max}` });
  const sort = (options.sort ?? []).map((words) => sortKey(over, words));
  const sealedKey = list.shape.entity.columns.find((column) => column.key && column.sealed !== null);
  if (by === 'cursor' && sealedKey !== undefined) {
    findings.push({ path: name, message: `a cursor would show the key ${sealedKey.name}, which is sealed` });
  }
  for (const key of sort) if (key instanceof Broken) findings.push(...key.findings(name));
  DeclarationError.throwIfAny(name, findings);
  const keys = sort.filter((key): key is SortKey => !(key instanceof Broken));
  return freeze({ by, size, max, totals, sort: freeze(keys) });
};

/** The literal of a page: its members' types are those of `PageFields`. */
const literalOf =
  ({ by, totals }: PageSettings) =>
  (items: never, info: EnvelopeInfo): unknown => {
    const { number, size, total, pages, next, previous } = info;
    if (by === 'cursor') return { items, page: { size, next, previous, ...(totals ? { total } : {}) } };
    return { items, page: { number, size, ...(totals ? { total, pages } : {}) } };
  };

/**
 * The body of an endpoint that returns many rows page by page: `{ items, page }`.
 *
 * @param shape the shape of each item
 * @param options `by`, `size`, `max`, `totals` and `sort`, each of them optional; left out, the first 20 by their key
 * @throws {DeclarationError} `DECLARATION` where a size is none, or it cannot be sorted like that
 * @example
 * page(VesselCard, { size: 20, max: 100, sort: ['name', 'id'] })
 */
export const page = <M, K, F, const O extends PageOptions<M, K> = Readonly<Record<never, never>>>(
  shape: Shape<M, K, F>,
  options: CheckedPage<O, keyof PageOptions<M, K>> & PageOptions<M, K> = {} as never,
): EnvelopeBody<PageFields<F, O>, M, K> => {
  const name = `page(${shape.plan.name})`;
  const content: ListPlan = freeze({ kind: 'list', shape: shape.plan });
  const settings = settingsOf(shape.over, content, options as LooseOptions, name);
  const plan = declareEnvelope(name, content, settings, literalOf(settings));
  // The phantom that carries the members exists for the compiler only.
  return freeze({ plan }) as EnvelopeBody<PageFields<F, O>, M, K>;
};
