/** Something the user can mend: told in a sentence, without a stack trace. */
export class Mistake extends Error {
  static {
    this.prototype.name = 'Mistake';
  }
  /** 2: the command was called wrongly. 1: it was called rightly and found something wrong. */
  readonly exitCode: 1 | 2;

  constructor(message: string, exitCode: 1 | 2 = 2) {
    super(message);
    this.exitCode = exitCode;
  }
}

/** Failures to reach a server, which some drivers report without a word. */
const UNREACHABLE: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'refuses connections',
  ETIMEDOUT: 'does not answer',
  ENOTFOUND: 'is not known',
  ECONNRESET: 'ended the connection',
};

const unreachable = (error: Error): string | null => {
  const [inner = error] = error instanceof AggregateError ? (error.errors as Error[]) : [];
  const { code = '', address, port, hostname } = inner as Error & Record<string, string | undefined>;
  const what = UNREACHABLE[code];
  if (what === undefined) return null;
  const where = hostname ?? (address === undefined ? 'The database' : `${address}:${port}`);
  return `${where} ${what}. Is the database's address right, and is it running?`;
};

/** What a failure looks like to the user, and the exit code that goes with it. */
export const describeFailure = (error: unknown): { readonly message: string; readonly exitCode: 1 | 2 } => {
  if (error instanceof Mistake) return { message: error.message, exitCode: error.exitCode };
  if (!(error instanceof Error)) return { message: String(error), exitCode: 2 };
  // By its code: the configuration may have loaded another copy of the library.
  const code = (error as { code?: unknown }).code;
  const isAboutRows = typeof code === 'string' && code.startsWith('ROW_');
  return { message: unreachable(error) ?? error.message, exitCode: isAboutRows ? 1 : 2 };
};
