/** Where a row keeps the figures about its to-many links that were made instead of loading their rows. */
export const figures: unique symbol = Symbol.for('gribo.figures');
