import { memoryStore, type Store } from 'gribo';
import { harbourData } from './data.js';
import { db } from './model.js';

/** The harbour's rows, for the command line and the server. */
export const harbourStore = (): Store => memoryStore(db, harbourData());
