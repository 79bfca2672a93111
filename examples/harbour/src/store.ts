import type { Listing, Store } from '@gribo/cli';
import type { LoadPlan } from 'gribo';
import { openHarbour } from './database.js';
import { load, storedName, type Wanted } from './load.js';

const wantedBy = (where: Listing['where']): Wanted =>
  where.length === 0
    ? {}
    : { columns: where.map(({ stored }) => stored), values: [where.map(({ value }) => value)] };

/** The harbour's rows for the command line: an embedded PostgreSQL, opened when it is first asked. */
export const harbourStore = async (): Promise<Store> => {
  const database = await openHarbour();
  const keyColumns = (plan: LoadPlan): string[] => plan.key.map((name) => storedName(plan, name));
  return {
    list: (plan, { limit, sort, where }) => load(database, plan, { ...wantedBy(where), limit, sort }),
    count: async (plan, where) => {
      const bare = {
        ...plan,
        columns: plan.columns.filter(({ name }) => plan.key.includes(name)),
        links: [],
        counts: [],
      };
      return (await load(database, bare, wantedBy(where))).length;
    },
    read: async (plan, key) => {
      const [row] = await load(database, plan, { columns: keyColumns(plan), values: [key], limit: 1 });
      return row ?? null;
    },
    close: () => database.destroy(),
  };
};
