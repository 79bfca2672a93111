import { GriboError } from './gribo-error.js';

/**
 * `duplicate`: another row has this value already. `reference`: the row that is named is not
 * there, or the row is still needed by others. `missing`: a column that always has a value got
 * none. `value`: the store refuses the value.
 */
export type ConflictReason = 'duplicate' | 'reference' | 'missing' | 'value';

/**
 * A store did not take a change, because of what is stored already. Nothing was changed.
 *
 * @example
 * store.create('vessel', change).catch((error) => { if (error.code === 'CONFLICT') report(error.columns) })
 */
export class ConflictError extends GriboError {
  static {
    this.prototype.name = 'ConflictError';
  }
  readonly reason: ConflictReason;
  readonly entity: string;
  /** The columns it is about, by the row's property names; empty where the store does not tell. */
  readonly columns: readonly string[];
  /** Of many rows that were to be stored, which one: from 0; null where it was one row, or nobody can tell. */
  readonly row: number | null;

  constructor(
    reason: ConflictReason,
    entity: string,
    columns: readonly string[],
    options: ErrorOptions & { readonly row?: number } = {},
  ) {
    const place = columns.length === 0 ? entity : `${entity}.${columns.join(', ')}`;
    super('CONFLICT', place, `${place}: ${WORDS[reason]}`, options);
    this.reason = reason;
    this.entity = entity;
    this.columns = Object.freeze([...columns]);
    this.row = options.row ?? null;
  }
}

const WORDS: Readonly<Record<ConflictReason, string>> = {
  duplicate: 'another row has this value already',
  reference: 'it names a row that is not there, or other rows still need it',
  missing: 'it always has a value, and none was given',
  value: 'the store does not take this value',
};
