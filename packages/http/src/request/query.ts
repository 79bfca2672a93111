import { type ReaderPolicies, type RequestIssue, reader } from 'gribo';
import {
  type ColumnPlan,
  comparison,
  didYouMean,
  dottedName,
  type EndpointPlan,
  type InputField,
  type InputPlan,
  MOST_ISSUES,
  type SettledQuery,
  type SortKey,
  type StoreCondition,
  sayWanted,
  valueFromText,
  whereShown,
} from 'gribo/kit';
import { Problem } from '../problems/problem.js';

/** What the query of a request asks for. */
export interface Query {
  readonly where: readonly StoreCondition[];
  /** What filters compare with, by their names. */
  readonly filters: Readonly<Record<string, unknown>>;
  /** The order that the caller chose; null where it chose none. */
  readonly sort: readonly SortKey[] | null;
  readonly asked: readonly string[] | null;
  readonly fields: readonly string[] | null;
  readonly page: { readonly page?: string; readonly size?: string; readonly after?: string };
  /** The value of `format`. */
  readonly format: string | null;
  /** What the query is told besides, read; null where the endpoint is told nothing. */
  readonly values: object | null;
}

const NOTHING: Query = {
  where: [],
  filters: {},
  sort: null,
  asked: null,
  fields: null,
  page: {},
  format: null,
  values: null,
};

/** The endpoint's own part of what a query may hold. */
export interface QueryRules {
  readonly endpoint: EndpointPlan;
  /** What the caller may look for and sort by. */
  readonly settled: SettledQuery;
  readonly isPaged: boolean;
  readonly formatParameter: boolean;
  readonly unknown: 'refuse' | 'ignore';
  /** How values are read, and the words of what is wrong with them. */
  readonly policies: ReaderPolicies;
}

const namesOf = (text: string): string[] =>
  text
    .split(',')
    .map((name) => name.trim())
    .filter((name) => name !== '');

/** Names that are asked for, each once. */
const namesOnce = (text: string): string[] => [...new Set(namesOf(text))];

const short = (text: string): string => (text.length > 60 ? `${text.slice(0, 60)}…` : text);

/** What people write for true and false: `?dryRun` and `?dryRun=1` too. */
const FLAGS: Readonly<Record<string, string>> = { '': 'true', 1: 'true', 0: 'false' };

/** A text as the member of a body that it stands for: an array has commas, and nothing is null where it may be. */
const sentAs = ({ type, nullable }: ColumnPlan, text: string): unknown => {
  if (text === '' && nullable) return null;
  if (type.kind === 'bool') return FLAGS[text] ?? text;
  return type.kind === 'array' ? (text === '' ? [] : text.split(',')) : text;
};

type SettledFilter = SettledQuery['filters'][number];

/** What a filter asks of rows, as this caller sees them. */
const filterCondition = ({ path, column, operator, shown }: SettledFilter, value: unknown): StoreCondition =>
  whereShown(comparison(column, operator, value, path), shown === null ? [] : [shown]);

/** Reads a query and gathers everything that is wrong with it. */
class QueryReading {
  readonly issues: RequestIssue[] = [];
  readonly #rules: QueryRules;

  constructor(rules: QueryRules) {
    this.#rules = rules;
  }

  read(pairs: ReadonlyMap<string, string>): Query {
    const { settled, unknown } = this.#rules;
    const known = this.#known();
    if (unknown === 'refuse') {
      for (const name of pairs.keys()) {
        if (known.includes(name)) continue;
        if (this.#isFull) break;
        const close = didYouMean(name, known);
        const all = known.length === 0 ? ' It takes none.' : ` There are: ${known.join(', ')}.`;
        this.#refuse(
          name,
          'unknown',
          '',
          `There is no parameter "${short(name)}".${close === '' ? all : close}`,
        );
      }
    }
    const looked = settled.filters.flatMap((filter): (readonly [SettledFilter, unknown])[] => {
      const value = this.#filter(filter, pairs.get(filter.name));
      return value === undefined ? [] : [[filter, value]];
    });
    return {
      where: looked.map(([filter, value]) => filterCondition(filter, value)),
      filters: Object.fromEntries(looked.map(([{ name }, value]) => [name, value])),
      sort: this.#sort(settled.sort, pairs.get('sort')),
      asked: known.includes('with') ? this.#names(pairs.get('with')) : null,
      fields: known.includes('fields') ? this.#names(pairs.get('fields')) : null,
      page: this.#page(pairs),
      format: this.#rules.formatParameter ? (pairs.get('format') ?? null) : null,
      values: settled.values === null ? null : this.#values(settled.values, pairs),
    };
  }

  /** What the query is told, read as a body of texts is. */
  #values(plan: InputPlan, pairs: ReadonlyMap<string, string>): object {
    const sent = plan.fields.flatMap(({ name, node }): [string, unknown][] => {
      const text = pairs.get(name);
      return text === undefined || node.kind !== 'set' ? [] : [[name, sentAs(node.column, text)]];
    });
    const read = reader({ plan }, { ...this.#rules.policies, text: 'lax' }).object(Object.fromEntries(sent));
    if (read.ok) return read.value;
    for (const { pointer, code, message } of read.issues) {
      const name = pointer.split('/')[1]?.replaceAll('~1', '/').replaceAll('~0', '~') ?? '';
      this.#refuse(name, code as RequestIssue['code'], pairs.get(name) ?? '', message);
    }
    return {};
  }

  /** Whether enough is wrong: what else is, is not told. */
  get #isFull(): boolean {
    return this.issues.length === MOST_ISSUES;
  }

  #known(): readonly string[] {
    const { endpoint, settled, isPaged, formatParameter } = this.#rules;
    return [
      ...settled.filters.map(({ name }) => name),
      ...(settled.values?.fields.map(({ name }) => name) ?? []),
      ...(isPaged ? ['page', 'size', 'after'] : []),
      ...(settled.sort.length > 0 ? ['sort'] : []),
      ...(endpoint.returns === null || endpoint.sends === 'file' ? [] : ['with', 'fields']),
      ...(formatParameter ? ['format'] : []),
    ];
  }

  #names(text: string | undefined): readonly string[] | null {
    return text === undefined ? null : namesOnce(text);
  }

  #page(pairs: ReadonlyMap<string, string>): Query['page'] {
    if (!this.#rules.isPaged) return {};
    const [page, size, after] = ['page', 'size', 'after'].map((name) => pairs.get(name));
    return {
      ...(page === undefined ? {} : { page }),
      ...(size === undefined ? {} : { size }),
      ...(after === undefined ? {} : { after }),
    };
  }

  #refuse(parameter: string, code: RequestIssue['code'], value: string, message: string): void {
    if (this.#isFull) return;
    this.issues.push({ parameter: short(parameter), code, value: short(value), message });
  }

  /** The value that a filter compares with; undefined where it is none. */
  #filter({ name, column, operator }: SettledFilter, text: string | undefined): unknown {
    if (text === undefined) return undefined;
    if (operator === 'isNull') {
      if (text === 'true' || text === 'false') return text === 'true';
      this.#refuse(name, 'type', text, `${name} must be true or false.`);
      return undefined;
    }
    if (operator === 'contains') return text;
    if (operator === 'oneOfThese') return namesOf(text).map((part) => this.#value(name, column, part));
    return this.#value(name, column, text);
  }

  #value(name: string, column: ColumnPlan, text: string): unknown {
    const got = valueFromText(column, text);
    if (got.ok) return got.value;
    this.#refuse(name, 'type', text, `${name} must be ${sayWanted(got.wanted, got.limits)}.`);
    return null;
  }

  /** `?sort=builtYear desc,name`: the words of a declaration. */
  #sort(known: SettledQuery['sort'], text: string | undefined): readonly SortKey[] | null {
    if (text === undefined || known.length === 0) return null;
    const names = known.map(({ name }) => name);
    const keys = namesOf(text).flatMap((words): SortKey[] => {
      const [, name = words, order] = /^(.+?)(?: (asc|desc))?$/s.exec(words) ?? [];
      const found = known.find((candidate) => candidate.name === name);
      if (found !== undefined) {
        const { path, column, shown } = found;
        return [{ path, column, shown, descending: order === 'desc' }];
      }
      if (this.#isFull) return [];
      const close = didYouMean(name, names);
      const all = ` There are: ${names.join(', ')}; add " desc" for the highest first.`;
      this.#refuse(
        'sort',
        'unknown',
        words,
        `sort does not take "${short(words)}".${close === '' ? all : close}`,
      );
      return [];
    });
    const isTwice = new Set(keys.map(({ path, column }) => dottedName(path, column))).size < keys.length;
    if (isTwice) this.#refuse('sort', 'range', text, 'sort has the same column twice.');
    return keys;
  }
}

const decoded = (text: string): string => {
  if (!text.includes('%') && !text.includes('+')) return text;
  try {
    return decodeURIComponent(text.replaceAll('+', ' '));
  } catch {
    throw new Problem(400, { detail: 'The query has an escape that is none.' });
  }
};

/** @param isList says of a name whether its value is a list: given several times, it is one list */
const pairsOf = (text: string, isList: (name: string) => boolean): ReadonlyMap<string, string> => {
  const pairs = new Map<string, string>();
  for (const part of text.split('&')) {
    if (part === '') continue;
    const at = part.indexOf('=');
    const name = decoded(at === -1 ? part : part.slice(0, at));
    const before = pairs.get(name);
    if (before !== undefined && isList(name)) {
      pairs.set(name, `${before},${at === -1 ? '' : decoded(part.slice(at + 1))}`);
      continue;
    }
    if (before !== undefined) {
      throw new Problem(400, {
        detail: `The parameter "${short(name)}" is given twice; put its values into one, with commas.`,
      });
    }
    pairs.set(name, at === -1 ? '' : decoded(part.slice(at + 1)));
  }
  return pairs;
};

/** Parameters whose values are lists, beside filters; many clients send lists by repeating the name. */
const LISTS = ['sort', 'with', 'fields'];

const isArray = ({ name, node }: InputField, wanted: string): boolean =>
  name === wanted && node.kind === 'set' && node.column.type.kind === 'array';

const takesList = ({ settled }: QueryRules, name: string): boolean =>
  LISTS.includes(name) ||
  settled.values?.fields.some((field) => isArray(field, name)) === true ||
  settled.filters.some((filter) => filter.name === name && filter.operator === 'oneOfThese');

/**
 * Reads the query of a request by what its endpoint declares.
 *
 * @param text the query without its question mark
 * @throws {Problem} 400 listing everything that is wrong
 */
export const readQuery = (text: string, rules: QueryRules): Query => {
  if (text === '' && rules.settled.values === null) return NOTHING;
  const reading = new QueryReading(rules);
  const query = reading.read(pairsOf(text, (name) => takesList(rules, name)));
  if (reading.issues.length > 0) {
    throw new Problem(400, { detail: 'The query has parameters that are wrong.', errors: reading.issues });
  }
  return query;
};
