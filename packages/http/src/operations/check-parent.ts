import { equalTo } from '../request/key.js';
import type { Exchange } from './exchange.js';
import { notFound } from './outcome.js';

/** A child collection is there where its parent is. */
export const checkParent = async ({ endpoint, parent, store }: Exchange): Promise<void> => {
  const { under } = endpoint;
  if (under === null) return;
  const { target, to } = under.link;
  const where = equalTo(
    target,
    to,
    parent.map(({ value }) => value),
  );
  if ((await store.count(target.name, where)) === 0) throw notFound();
};
