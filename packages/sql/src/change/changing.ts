import type { LinkedEntity } from 'gribo/kit';
import type { Capacities } from '../capacity/capacities.js';
import type { Database } from '../dialects/database.js';
import type { Piece } from '../dialects/dialect.js';
import type { Loading } from '../load/load-rows.js';
import type { FlatRow } from '../load/selecting.js';

/** What running a statement that changes rows gives. */
export interface Done {
  readonly rows: readonly FlatRow[];
  /** The number that the database made for the first row, where it does not return rows. */
  readonly insertId: bigint | undefined;
}

/** What changing rows needs to know; all of its statements are run in one transaction. */
export interface Changing {
  readonly database: Database;
  readonly capacities: Capacities;
  /** Loads what a guard looks at. */
  readonly loading: Loading;
  /** Runs a statement. */
  execute(statement: Piece): Promise<Done>;
  /** Runs a statement that is text already. */
  executeText(text: string, parameters: readonly unknown[]): Promise<Done>;
  /** The text of a piece of a statement that has no parameters. */
  textOf(piece: Piece): string;
  readonly entities: ReadonlyMap<string, LinkedEntity>;
}
