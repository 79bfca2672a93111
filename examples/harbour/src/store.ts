import { type SqlStoreOptions, sqlStore } from '@gribo/sql';
import type { Store } from 'gribo';
import { openHarbour } from './database.js';
import { db } from './model.js';

/** The harbour's rows, on an embedded PostgreSQL, for the command line and the server. */
export const harbourStore = async (options: SqlStoreOptions = {}): Promise<Store> =>
  sqlStore(db, await openHarbour(), options);
