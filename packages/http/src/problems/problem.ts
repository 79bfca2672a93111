import { GriboError, type Issue, type RequestIssue } from 'gribo';

/** What is known about a problem, beyond its status. */
export interface ProblemDetails {
  /** What is wrong in this case, in a sentence for the caller. Never anything secret. */
  readonly detail?: string;
  /** Every single thing that is wrong. */
  readonly errors?: readonly (Issue | RequestIssue)[];
  /** Headers to send along: `WWW-Authenticate`, `Allow`, … */
  readonly headers?: Readonly<Record<string, string>>;
  /** What caused it: it goes to the log, never to the caller. */
  readonly cause?: unknown;
}

const TITLES: Readonly<Record<number, string>> = {
  400: 'Bad Request',
  401: 'Unauthorized',
  403: 'Forbidden',
  404: 'Not Found',
  405: 'Method Not Allowed',
  406: 'Not Acceptable',
  408: 'Request Timeout',
  409: 'Conflict',
  410: 'Gone',
  412: 'Precondition Failed',
  413: 'Content Too Large',
  414: 'URI Too Long',
  415: 'Unsupported Media Type',
  422: 'Unprocessable Content',
  428: 'Precondition Required',
  429: 'Too Many Requests',
  500: 'Internal Server Error',
  501: 'Not Implemented',
  503: 'Service Unavailable',
};

/**
 * A failure that the caller is told of, as problem details (RFC 9457). Handlers and `audience` throw
 * it to answer with a status of their own.
 *
 * @param status the HTTP status, from 400 to 599
 * @param details `detail`, `errors`, `headers`, `cause`
 * @example
 * throw new Problem(401, { detail: 'The token has run out.', headers: { 'www-authenticate': 'Bearer' } });
 */
export class Problem extends GriboError {
  static {
    Problem.prototype.name = 'Problem';
  }
  readonly status: number;
  readonly title: string;
  readonly detail: string | null;
  readonly errors: readonly (Issue | RequestIssue)[];
  readonly headers: Readonly<Record<string, string>>;

  constructor(status: number, details: ProblemDetails = {}) {
    const title = TITLES[status] ?? (status < 500 ? 'Bad Request' : 'Internal Server Error');
    super(
      'PROBLEM',
      'response',
      details.detail ?? title,
      details.cause === undefined ? undefined : { cause: details.cause },
    );
    this.status = status;
    this.title = title;
    this.detail = details.detail ?? null;
    this.errors = details.errors ?? [];
    this.headers = details.headers ?? {};
  }
}
