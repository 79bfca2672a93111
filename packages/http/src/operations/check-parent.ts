import { notFound } from '../problems/not-found.js';
import { equalTo } from '../request/key.js';
import type { Exchange } from './exchange.js';

/** A child collection is there where its parent is. */
export const checkParent = async ({ endpoint, parentValues, store, hasParent }: Exchange): Promise<void> => {
  const { under } = endpoint;
  if (under === null || hasParent) return;
  const { target, to } = under.link;
  const where = equalTo(target, to, Object.values(parentValues));
  if ((await store.count(target.name, where)) === 0) throw notFound();
};
