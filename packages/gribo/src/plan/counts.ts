/** Where a row keeps the counts of its to-many links that were counted instead of loaded. */
export const counts: unique symbol = Symbol.for('gribo.counts');
