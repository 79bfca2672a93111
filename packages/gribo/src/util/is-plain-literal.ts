/** Whether a value is an object literal: `{ … }`, also of another realm such as a prompt's, or one without a prototype. */
export const isPlainLiteral = (value: unknown): value is Record<string, unknown> => {
  if (typeof value !== 'object' || value === null) return false;
  const prototype = Object.getPrototypeOf(value);
  return prototype === null || Object.getPrototypeOf(prototype) === null;
};
