import type { ColumnKind, ColumnType } from 'gribo/kit';

/**
 * How values are carried between a driver and rows: what dialects tell apart. Several kinds are carried
 * alike.
 */
export type Form =
  | 'plain'
  | 'number'
  | 'bool'
  | 'bytes'
  | 'day'
  | 'clock'
  | 'span'
  | 'whole'
  | 'decimal'
  | 'json'
  | 'moment'
  | 'choice'
  | 'array';

type OfKind<K extends ColumnKind> = Extract<ColumnType, { readonly kind: K }>;

/** What databases know of one kind. */
interface SqlKind<K extends ColumnKind> {
  readonly form: Form;
  /** The kinds that a catalogue may call it by: they are kept alike. */
  readonly storedAs: readonly ColumnKind[];
  /** More of them, where a database keeps it in a less telling type. */
  readonly looselyAs: readonly ColumnKind[];
  /** How a model declares it; `quoted` makes a string literal. */
  source(type: OfKind<K>, quoted: (text: string) => string): string;
  /** The type in a few words. */
  words(type: OfKind<K>): string;
}

const limits = (parts: Readonly<Record<string, number | bigint | string | RegExp | null>>): string => {
  const set = Object.entries(parts).filter(([, value]) => value !== null);
  const said = (value: unknown): string => (typeof value === 'bigint' ? `${value}n` : String(value));
  return set.length === 0 ? '' : `{ ${set.map(([name, value]) => `${name}: ${said(value)}`).join(', ')} }`;
};

/** The same of limits that are text. */
const textLimits = (
  parts: Readonly<Record<string, string | null>>,
  quoted: (text: string) => string,
): string =>
  limits(Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, text && quoted(text)])));

const ranged = ({
  kind,
  min,
  max,
}: {
  readonly kind: string;
  readonly min: number | bigint | null;
  readonly max: number | bigint | null;
}): string => `${kind}(${limits({ min, max })})`;

const call = ({ kind }: { readonly kind: string }): string => `${kind}()`;
const kindOnly = ({ kind }: { readonly kind: string }): string => kind;

/** A row for every kind: one that is missing does not compile. */
const SQL_KINDS: { readonly [K in ColumnKind]: SqlKind<K> } = {
  text: {
    form: 'plain',
    storedAs: ['text', 'oneOf', 'uuid'],
    looselyAs: [],
    source: ({ min, max, pattern }) => `text(${limits({ min, max, pattern })})`,
    words: kindOnly,
  },
  integer: {
    form: 'number',
    storedAs: ['integer', 'bigint'],
    looselyAs: [],
    source: ranged,
    words: kindOnly,
  },
  bigint: {
    form: 'whole',
    storedAs: ['bigint', 'integer', 'decimal'],
    looselyAs: [],
    source: ranged,
    words: kindOnly,
  },
  real: { form: 'number', storedAs: ['real', 'decimal'], looselyAs: [], source: ranged, words: kindOnly },
  decimal: {
    form: 'decimal',
    storedAs: ['decimal'],
    looselyAs: ['text', 'real'],
    source: ({ precision, scale, min, max }, quoted) =>
      `decimal(${[precision, scale, textLimits({ min, max }, quoted)].filter((part) => part !== '').join(', ')})`,
    words: ({ precision, scale }) => `decimal(${precision}, ${scale})`,
  },
  bool: { form: 'bool', storedAs: ['bool'], looselyAs: ['integer'], source: call, words: kindOnly },
  date: { form: 'day', storedAs: ['date'], looselyAs: ['text'], source: call, words: kindOnly },
  time: { form: 'clock', storedAs: ['time'], looselyAs: ['text'], source: call, words: kindOnly },
  duration: {
    form: 'span',
    storedAs: ['duration', 'text'],
    looselyAs: [],
    source: call,
    words: kindOnly,
  },
  timestamp: { form: 'moment', storedAs: ['timestamp'], looselyAs: ['text'], source: call, words: kindOnly },
  uuid: { form: 'plain', storedAs: ['uuid', 'text'], looselyAs: [], source: call, words: kindOnly },
  json: {
    form: 'json',
    storedAs: ['json'],
    looselyAs: ['text'],
    source: () => 'json<unknown>()',
    words: kindOnly,
  },
  bytes: {
    form: 'bytes',
    storedAs: ['bytes'],
    looselyAs: [],
    source: ({ max }) => `bytes(${limits({ max })})`,
    words: kindOnly,
  },
  oneOf: {
    form: 'choice',
    storedAs: ['oneOf', 'text'],
    looselyAs: [],
    source: ({ choices }, quoted) => `oneOf(${choices.map(quoted).join(', ')})`,
    words: ({ choices }) => `one of ${choices.join(', ')}`,
  },
  array: {
    form: 'array',
    storedAs: ['array', 'json'],
    looselyAs: ['text'],
    source: ({ of, min, max }, quoted) =>
      `array(${[sqlKind(of).source(of, quoted), limits({ min, max })].filter((part) => part !== '').join(', ')})`,
    words: ({ of }) => `an array of ${sqlKind(of).words(of)}`,
  },
};

/** What databases know of a type: the row of its kind. */
export const sqlKind = (type: { readonly kind: ColumnKind }): SqlKind<ColumnKind> =>
  // A row takes types of its own kind, and is found by that.
  SQL_KINDS[type.kind] as SqlKind<ColumnKind>;

/** How values of a type are carried. */
export const formOf = (type: ColumnType): Form => SQL_KINDS[type.kind].form;
