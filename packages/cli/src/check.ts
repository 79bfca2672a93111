import type { Drift } from '@gribo/sql';
import type { Store } from 'gribo';
import { Mistake } from './mistake.js';
import type { Screen } from './screen.js';

export interface CheckOptions {
  readonly json?: boolean;
}

/** A store that can say where its model and its database do not agree. */
type Comparing = Store & { drift(): Promise<readonly Drift[]> };

const canCompare = (store: Store): store is Comparing =>
  'drift' in store && typeof store.drift === 'function';

/**
 * Prints what is wrong: where the model and the database do not agree.
 *
 * @throws {Mistake} with exit code 1 where there is anything
 */
export const check = async (
  openStore: () => Promise<Store>,
  options: CheckOptions,
  screen: Screen,
): Promise<void> => {
  const store = await openStore();
  const found = canCompare(store) ? await store.drift() : [];
  const { colours } = screen;
  if (options.json === true) screen.print(JSON.stringify(found, null, 2));
  else {
    if (!canCompare(store)) screen.print(colours.dim('The store has no database to compare the model with.'));
    const widest = Math.max(0, ...found.map(({ path }) => path.length));
    for (const { code, path, message } of found) {
      screen.print(`${colours.yellow(code.padEnd(7))} ${colours.bold(path.padEnd(widest))}  ${message}`);
    }
  }
  if (found.length > 0)
    throw new Mistake(`${found.length === 1 ? 'One finding' : `${found.length} findings`}.`, 1);
  if (options.json !== true && canCompare(store))
    screen.print(colours.green('The model and the database agree.'));
};
