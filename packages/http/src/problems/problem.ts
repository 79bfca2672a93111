import { GriboError, type Issue, type RequestIssue } from 'gribo';

/** What is known about a problem, beyond its status. */
export interface ProblemDetails {
  /** What is wrong in this case, in a sentence for the caller. Never anything secret. */
  readonly detail?: string;
  /** Tells it apart from others with the same status, best one that the endpoint declares in `problems`. */
  readonly code?: string;
  /** A few words that are the same every time. Default: the status's own, or what the endpoint declares for the code. */
  readonly title?: string;
  /** A URI for this kind of problem (RFC 9457, section 3.1.1). Default: what the endpoint declares for the code, or `about:blank`. */
  readonly type?: string;
  /** What else the details have: values as rows hold them where the endpoint declares them, else JSON. */
  readonly members?: Readonly<Record<string, unknown>>;
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
 * @param details `detail`, `code`, `title`, `type`, `members`, `errors`, `headers`, `cause`
 * @example
 * throw new Problem(401, { detail: 'The token has run out.', headers: { 'www-authenticate': 'Bearer' } });
 */
export class Problem extends GriboError {
  static {
    this.prototype.name = 'Problem';
  }
  readonly status: number;
  readonly title: string;
  readonly detail: string | null;
  /** Not `code`: that is the one of every error of the library. */
  readonly problemCode: string | null;
  readonly type: string | null;
  readonly members: Readonly<Record<string, unknown>>;
  readonly errors: readonly (Issue | RequestIssue)[];
  readonly headers: Readonly<Record<string, string>>;

  constructor(status: number, details: ProblemDetails = {}) {
    const title = details.title ?? TITLES[status] ?? (status < 500 ? 'Bad Request' : 'Internal Server Error');
    super(
      'PROBLEM',
      'response',
      details.detail ?? title,
      details.cause === undefined ? undefined : { cause: details.cause },
    );
    this.status = status;
    this.title = title;
    this.detail = details.detail ?? null;
    this.problemCode = details.code ?? null;
    this.type = details.type ?? null;
    this.members = details.members ?? {};
    this.errors = details.errors ?? [];
    this.headers = details.headers ?? {};
  }
}
