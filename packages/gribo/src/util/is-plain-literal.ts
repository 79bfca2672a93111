/** Whether a value is an object literal: `{ … }`, or one without a prototype. */
export const isPlainLiteral = (value: unknown): value is Record<string, unknown> => {
  if (typeof value !== 'object' || value === null) return false;
  const prototype = Object.getPrototypeOf(value);
  return prototype === Object.prototype || prototype === null;
};
