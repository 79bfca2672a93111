import type { ColumnType } from '../../plan/column-type.js';
import { freeze } from '../../util/freeze.js';

/** What a modifier can say about a column, as types carry it. */
export type ColumnFlag = 'null' | 'key' | 'generated' | 'sealed';

/** A column's settings before its entity gives it a name. */
export interface ColumnSettings {
  readonly type: ColumnType;
  readonly nullable: boolean;
  readonly key: boolean;
  readonly generated: boolean;
  readonly unique: boolean;
  readonly sealed: string | null;
  readonly stored: string | null;
  readonly via: ((row: object) => unknown) | null;
  readonly about: string | null;
  readonly example: unknown;
}

/**
 * A column: `T` is the value a row holds, `W` what is written to JSON, `F` what its modifiers say.
 * Each modifier returns a new column.
 */
export class Column<T, W, F extends ColumnFlag = never> {
  /** Carries the types; there is nothing at run time. */
  declare readonly types: readonly [T, W, F];
  readonly settings: ColumnSettings;

  constructor(settings: ColumnSettings) {
    this.settings = freeze(settings);
    Object.freeze(this);
  }

  /** Part of the key. Columns of a composite key are in the order of the entity. */
  key(): Column<T, W, F | 'key'> {
    return new Column({ ...this.settings, key: true });
  }
  /** May be null. */
  nullable(): Column<T, W, F | 'null'> {
    return new Column({ ...this.settings, nullable: true });
  }
  /** Made by the database: no input sets it. */
  generated(): Column<T, W, F | 'generated'> {
    return new Column({ ...this.settings, generated: true });
  }
  /** No two rows have the same value. */
  unique(): Column<T, W, F> {
    return new Column({ ...this.settings, unique: true });
  }
  /** No response shows it unless a member unseals it. `label` says why: `personal`, `finance`, … */
  sealed(label: string): Column<T, W, F | 'sealed'> {
    return new Column({ ...this.settings, sealed: label });
  }
  /** The column's name in the database, where it is not the snake_case of the property. */
  stored(name: string): Column<T, W, F> {
    return new Column({ ...this.settings, stored: name });
  }
  /** Says in a sentence what the value is, for descriptions. @example text().about('The radio call sign.') */
  about(sentence: string): Column<T, W, F> {
    return new Column({ ...this.settings, about: sentence });
  }
  /** A made-up value, as a row holds it: samples use it, and descriptions show it. */
  example(value: T): Column<T, W, F> {
    return new Column({ ...this.settings, example: value });
  }
  /** Reads the value where the row keeps it under another name, or behind a getter or method. */
  via<R extends object = Record<string, unknown>>(read: (row: R) => unknown): Column<T, W, F> {
    // The caller says what its rows are; the writer hands over whatever row it was given.
    return new Column({ ...this.settings, via: read as (row: object) => unknown });
  }
}

/** Any column whatever. */
export type AnyColumn = Column<unknown, unknown, ColumnFlag>;

/** The value a row holds in this column: `Column<string, string, 'null'>` gives `string | null`. */
export type StoredValue<C> =
  C extends Column<infer T, unknown, infer F> ? ('null' extends F ? T | null : T) : never;

const column = <T, W>(type: ColumnType): Column<T, W> =>
  new Column({
    type: freeze(type),
    nullable: false,
    key: false,
    generated: false,
    unique: false,
    sealed: null,
    stored: null,
    via: null,
    about: null,
    example: undefined,
  });

/**
 * A string. Limits are in UTF-16 units, as `length` counts them.
 * @example text({ min: 1, max: 60, pattern: /^[A-Z]/ })
 */
export const text = (limits: { min?: number; max?: number; pattern?: RegExp } = {}): Column<string, string> =>
  column({
    kind: 'text',
    min: limits.min ?? null,
    max: limits.max ?? null,
    pattern: limits.pattern ?? null,
  });

/** A whole number that JavaScript holds exactly. @example integer({ min: 1850, max: 2100 }) */
export const integer = (limits: { min?: number; max?: number } = {}): Column<number, number> =>
  column({ kind: 'integer', min: limits.min ?? null, max: limits.max ?? null });

/**
 * A whole number of any size, written as a string. A row may hold it as a safe integer or as text.
 * @example bigint({ min: 0n })
 */
export const bigint = (limits: { min?: bigint; max?: bigint } = {}): Column<bigint, string> =>
  column({ kind: 'bigint', min: limits.min ?? null, max: limits.max ?? null });

/** A floating-point number. @example real({ min: 0 }) */
export const real = (limits: { min?: number; max?: number } = {}): Column<number, number> =>
  column({ kind: 'real', min: limits.min ?? null, max: limits.max ?? null });

/**
 * An exact decimal, held and written as text. `precision` counts all digits, `scale` those after the point.
 * @example decimal(12, 2) // "1250.00"
 */
export const decimal = (precision: number, scale: number): Column<string, string> =>
  column({ kind: 'decimal', precision, scale });

/** True or false. @example bool() */
export const bool = (): Column<boolean, boolean> => column({ kind: 'bool' });

/** A calendar day as `YYYY-MM-DD`. A row may hold a `Date` instead: it is read in UTC. @example date() */
export const date = (): Column<string, string> => column({ kind: 'date' });

/** A time of day: `HH:MM`, `HH:MM:SS` or `HH:MM:SS.fff`. @example time() */
export const time = (): Column<string, string> => column({ kind: 'time' });

/** A moment: a `Date`, written in UTC with milliseconds (RFC 3339). @example timestamp().generated() */
export const timestamp = (): Column<Date, string> => column({ kind: 'timestamp' });

/** A UUID as text (RFC 9562). @example uuid().key() */
export const uuid = (): Column<string, string> => column({ kind: 'uuid' });

/** A JSON value, written as it is. Say what it holds: `json<{ colour: string }>()`. */
export const json = <T>(): Column<T, T> => column({ kind: 'json' });

/** Bytes, written as base64 (RFC 4648, section 4). `max` counts bytes. @example bytes({ max: 4096 }) */
export const bytes = (limits: { max?: number } = {}): Column<Uint8Array, string> =>
  column({ kind: 'bytes', max: limits.max ?? null });

/** One of a few strings. @example oneOf('bulk', 'tanker', 'ferry') */
export const oneOf = <const S extends readonly [string, ...string[]]>(
  ...choices: S
): Column<S[number], S[number]> => column({ kind: 'oneOf', choices: freeze([...choices]) });
