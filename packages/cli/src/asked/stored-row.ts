import type { LoadPlan, Store } from 'gribo';
import type { EntityPlan } from 'gribo/kit';
import { Mistake } from '../screen/mistake.js';
import { parseKey } from './parse-key.js';

/** The row of a key that was typed. @throws {Mistake} where there is none */
export const storedRow = async (
  store: Store,
  plan: LoadPlan,
  entity: EntityPlan,
  key: string,
): Promise<object> => {
  const row = await store.read(plan, parseKey(entity, key));
  if (row === null) throw new Mistake(`There is no ${entity.name} with the key ${key}.`);
  return row;
};
