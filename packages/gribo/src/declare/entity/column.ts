import type { ColumnType } from '../../plan/column-type.js';
import type { Coding, StampGiven, StampPlan } from '../../plan/entity-plan.js';
import { freeze } from '../../util/freeze.js';

/** What a modifier can say about a column, as types carry it. */
export type ColumnFlag = 'null' | 'key' | 'generated' | 'sealed' | 'via';

/** A column's settings before its entity gives it a name. */
export interface ColumnSettings {
  readonly type: ColumnType;
  /** What is wrong with its limits; null where nothing is. */
  readonly wrong: string | null;
  readonly nullable: boolean;
  readonly key: boolean;
  readonly generated: boolean;
  readonly defaulted: boolean;
  readonly stamped: StampPlan | null;
  readonly unique: boolean;
  readonly sealed: string | null;
  readonly stored: string | null;
  readonly via: ((row: object) => unknown) | null;
  readonly coded: Coding | null;
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
  /** Set by the database where a change does not: not required of one that creates a row. */
  defaulted(): Column<T, W, F> {
    return new Column({ ...this.settings, defaulted: true });
  }
  /**
   * Set by each change itself, and by no input: `create`, by the one that makes the row; `change`, by that and every one after
   * it; `remove`, by its removal, which then leaves the row where it is.
   *
   * @param on when
   * @param value given `caller`, the facts about whoever asks, and `now`, the value
   * @example
   * timestamp().stamped('change', ({ now }) => now)
   */
  stamped(on: StampPlan['on'], value: (given: StampGiven) => T | null): Column<T, W, F | 'generated'> {
    return new Column({ ...this.settings, stamped: Object.freeze({ on, value }) });
  }
  /**
   * Counts the changes of its row, and no input sets it: 1 where the row is made, and one more with each change, the one
   * that removes it softly too. For whole numbers.
   *
   * @example
   * integer().counting()
   */
  counting(): Column<T, W, F | 'generated'> {
    return new Column({ ...this.settings, stamped: Object.freeze({ on: 'change', value: 'count' }) });
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
  /**
   * Stored in a form of its own: `Y` and `N` for truths, cents for a decimal, one text for a list. A row holds the value; a
   * store in a database reads and writes the form. Equal values have one form; its order is not theirs, so nothing is sorted by it.
   *
   * @param code `as`: a column that says what is stored; `read`: its value; `write`: what is stored for a value
   * @example
   * bool().coded({ as: text({ max: 1 }), read: (said) => said === 'Y', write: (value) => (value ? 'Y' : 'N') })
   */
  coded<S>(code: {
    readonly as: Column<S, unknown>;
    read(stored: S): T;
    write(value: T): S;
  }): Column<T, W, F> {
    const { as, read, write } = code;
    // The types of both are those of the columns.
    const coded = { type: as.settings.type, read, write } as Coding;
    const twice = as.settings.coded === null ? null : 'what it is stored as has no form of its own';
    const wrong = this.settings.wrong ?? as.settings.wrong ?? twice;
    return new Column({ ...this.settings, wrong, coded: Object.freeze(coded) });
  }
  /** Reads the value where the row keeps it under another name, or behind a getter or method. */
  via<R extends object = Record<string, unknown>>(read: (row: R) => unknown): Column<T, W, F | 'via'> {
    // The caller says what its rows are; the writer hands over whatever row it was given.
    return new Column({ ...this.settings, via: read as (row: object) => unknown });
  }
}

/** Any column whatever. */
export type AnyColumn = Column<unknown, unknown, ColumnFlag>;

/** The value a row holds in this column: `Column<string, string, 'null'>` gives `string | null`. */
export type StoredValue<C> =
  C extends Column<infer T, unknown, infer F> ? ('null' extends F ? T | null : T) : never;
