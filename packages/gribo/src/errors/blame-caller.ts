/** Enough to get out of the library, from wherever it is in it. */
const DEEP = 50;

/** Lines of this library and of the runtime, as they are installed. */
const NOT_THEIRS = /^\s+at .*(?:\bnode_modules[\\/](?:@gribo[\\/]|gribo[\\/])|\(?node:internal\b)/;

/** Of a stack, the lines of whoever called the library: those that can be mended. All of them, where it has no such. */
export const linesOfTheCaller = (stack: string): string => {
  const lines = stack.split('\n');
  const theirs = lines.filter((line) => !NOT_THEIRS.test(line));
  return theirs.some((line) => /^\s+at /.test(line)) ? theirs.join('\n') : stack;
};

/**
 * Has the stack of an error begin with the line of whoever called the library.
 *
 * @param above the constructor of the error
 */
export const blameCaller = (error: Error, above: unknown): void => {
  // Of engines like V8. Reflect tells where a limit is fixed, and throws nothing.
  const limit: unknown = Reflect.get(Error, 'stackTraceLimit');
  const capture: unknown = Reflect.get(Error, 'captureStackTrace');
  Reflect.set(Error, 'stackTraceLimit', DEEP);
  if (typeof capture === 'function') capture.call(Error, error, above);
  Reflect.set(Error, 'stackTraceLimit', limit);
  if (typeof error.stack === 'string') error.stack = linesOfTheCaller(error.stack);
};
