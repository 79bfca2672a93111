import { stock } from '../../../gribo/src/testing/stock.js';
import { openDatabase } from '../open-database.js';
import { sqlStore } from '../store/sql-store.js';

/** One of several processes that write to one file: `path`, its name, and how many rows it makes. Prints what did not get through. */
const [path = '', name = '', many = '0'] = process.argv.slice(2);

const store = sqlStore(stock, await openDatabase(`sqlite:${path}`));
const failed: string[] = [];
for (let i = 0; i < Number(many); i++) {
  const vessels = [1, 2].map((n) => ({
    name: `${name} ${i}.${n}`,
    kind: 'tug',
    builtYear: 2000,
    tonnage: '1.0',
    draught: 1,
    active: true,
    weight: 1n,
  }));
  await store
    .create('operator', { name: `${name} ${i}`, vessels })
    .catch((error: Error) => failed.push(error.message));
}
await store.close?.();
process.stdout.write(JSON.stringify(failed));
