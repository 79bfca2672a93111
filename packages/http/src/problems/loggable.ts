/** What drivers of databases put on their errors, beside the values that they quote. */
interface DriverError {
  readonly code?: unknown;
  readonly errno?: unknown;
  readonly sqlState?: unknown;
}

/** Properties that errors of databases have and no others: the class that a driver gives them is its own. */
const MARKS = ['sqlMessage', 'sqlState', 'severity', 'parameters'];

const isOfDriver = (error: Error): boolean =>
  MARKS.some((name) => name in error) || String((error as DriverError).code).startsWith('SQLITE_');

/** A line of a stack as the runtime writes it, with where that is. */
const FRAME = /^\s+at .*(?::\d+:\d+|<anonymous>|native)\)?$/;

/** The lines of a stack without the message above them, which may have lines that look like them. */
const framesOf = ({ stack = '', message }: Error): string => {
  const start = message === '' ? 0 : stack.indexOf(message);
  // A message that was changed since is not found: nothing of such a stack is told.
  if (start === -1) return '';
  return stack
    .slice(start + message.length)
    .split('\n')
    .filter((line) => FRAME.test(line))
    .join('\n');
};

const withStack = (error: Error, frames: string): Error => {
  error.stack = `${error.name}: ${error.message}\n${frames}`;
  return error;
};

const known = (value: unknown): boolean => typeof value === 'string' || typeof value === 'number';

/** What may be told of a driver's error: how the failure is called, never a name or a value that came with it. */
const recordOf = (error: Error): Error => {
  const { code, errno, sqlState } = error as DriverError;
  const facts = Object.entries({ code, errno, sqlState }).filter(([, fact]) => known(fact));
  const words = facts.map(([name, fact]) => `${name} ${String(fact)}`).join(', ');
  const record = new Error(`a database failed: ${words}`);
  record.name = error.name;
  return withStack(Object.assign(record, Object.fromEntries(facts)), framesOf(error));
};

/** More causes than these are not looked through, and not told. */
const DEEPEST = 8;

const hasDriver = (error: unknown, depth = 0): boolean =>
  error instanceof Error && (depth === DEEPEST || isOfDriver(error) || hasDriver(error.cause, depth + 1));

/**
 * An error as it may be logged. What a driver of a database says quotes values of statements and of rows, so a
 * record takes its place, wherever among the causes it is; any other error is logged as it is.
 */
export const loggable = (error: unknown, depth = 0): unknown => {
  if (!(error instanceof Error) || !hasDriver(error)) return error;
  if (isOfDriver(error)) return recordOf(error);
  const copy = new Error(error.message, depth === DEEPEST ? {} : { cause: loggable(error.cause, depth + 1) });
  copy.name = error.name;
  return withStack(copy, framesOf(error));
};
