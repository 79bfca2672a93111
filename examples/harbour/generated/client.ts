// Made by gribo build; changes are overwritten.
import type { Audience, PathParameters, Queries, Requests, Responses } from "./types.js";

const routes = {
  "vessels.list": ["GET", "/vessels"],
  "vessels.read": ["GET", "/vessels/{id}"],
  "vessels.create": ["POST", "/vessels"],
  "vessels.replace": ["PUT", "/vessels/{id}"],
  "vessels.amend": ["PATCH", "/vessels/{id}"],
  "vessels.remove": ["DELETE", "/vessels/{id}"],
  "operators.read": ["GET", "/operators/{id}"],
  "portCalls.list": ["GET", "/port-calls"],
  "portCalls.read": ["GET", "/port-calls/{id}"],
  "portCalls.create": ["POST", "/port-calls"],
  "portCalls.replace": ["PUT", "/port-calls/{id}"],
  "portCalls.amend": ["PATCH", "/port-calls/{id}"],
  "portCalls.remove": ["DELETE", "/port-calls/{id}"],
  "cargo.list": ["GET", "/port-calls/{portCall}/cargo"],
  "berths.list": ["GET", "/berths"],
  "berths.read": ["GET", "/berths/{id}"],
  "berths.options": ["GET", "/berths/options"],
  "pilots.list": ["GET", "/pilots"],
  "pilots.read": ["GET", "/pilots/{id}"],
  "quays.list": ["GET", "/quays"],
  "positions.list": ["GET", "/positions"],
  "positions.create": ["POST", "/positions"],
} as const;

type Name = keyof typeof routes;

/** What a call needs: parameters of the path and a body where there are any; a query where one is taken. */
export type Call<N extends Name, A extends Audience> = (N extends keyof PathParameters ? { readonly path: PathParameters[N] } : unknown) &
  (N extends keyof Requests ? { readonly body: A extends keyof Requests[N] ? Requests[N][A] : never } : unknown) &
  (N extends keyof Queries ? { readonly query?: Queries[N] } : unknown) & {
    readonly headers?: Readonly<Record<string, string>>;
    readonly signal?: AbortSignal;
  };

/** What an endpoint sends to an audience; null where it sends nothing. */
export type Reply<N extends Name, A extends Audience> = N extends keyof Responses
  ? A extends keyof Responses[N]
    ? Responses[N][A]
    : never
  : null;

/** Problem details (RFC 9457), with every single thing that is wrong. */
export interface ProblemDetails {
  readonly title?: string;
  readonly status?: number;
  readonly detail?: string;
  readonly errors?: readonly {
    readonly pointer?: string;
    readonly parameter?: string;
    readonly code: string;
    readonly message: string;
  }[];
}

/** The API answered with a problem. */
export class ApiProblem extends Error {
  readonly status: number;
  readonly problem: ProblemDetails;
  constructor(status: number, problem: ProblemDetails) {
    super(problem.detail ?? problem.title ?? `The API answered ${status}.`);
    this.name = 'ApiProblem';
    this.status = status;
    this.problem = problem;
  }
}

export interface ClientOptions {
  /** Where the API is, without a slash at the end. */
  readonly base: string;
  /** Sent with every request: who is asking, for instance. */
  readonly headers?: Readonly<Record<string, string>>;
  /** Another way to send requests. Default: the platform's own. */
  readonly fetch?: typeof fetch;
}

interface AnyCall {
  readonly path?: Readonly<Record<string, unknown>>;
  readonly query?: Readonly<Record<string, unknown>>;
  readonly body?: unknown;
  readonly headers?: Readonly<Record<string, string>>;
  readonly signal?: AbortSignal;
}

const urlOf = (base: string, path: string, call: AnyCall): string => {
  const filled = path.replace(/\{([^}]*)\}/g, (_whole, name: string) => encodeURIComponent(String(call.path?.[name])));
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(call.query ?? {})) {
    if (value !== undefined) query.set(name, Array.isArray(value) ? value.join(',') : String(value));
  }
  return base + filled + (query.size === 0 ? '' : `?${query}`);
};

const problemOf = async (response: Response): Promise<ProblemDetails> => {
  try {
    return (await response.json()) as ProblemDetails;
  } catch {
    return {};
  }
};

/**
 * Makes a client of the API for one audience: `const call = connect({ base })`, then
 * `await call('…', { path, query, body })`. Where the API answers with a problem, it throws an ApiProblem.
 */
export const connect =
  <A extends Audience = ''>(options: ClientOptions) =>
  async <N extends Name>(name: N, ...[call]: object extends Call<N, A> ? [Call<N, A>?] : [Call<N, A>]): Promise<Reply<N, A>> => {
    const [method, path] = routes[name];
    const { headers, signal, ...rest }: AnyCall = call ?? {};
    const hasBody = rest.body !== undefined;
    const type = method === 'PATCH' ? 'application/merge-patch+json' : 'application/json';
    const response = await (options.fetch ?? fetch)(urlOf(options.base, path, rest), {
      method,
      headers: { accept: 'application/json', ...(hasBody ? { 'content-type': type } : {}), ...options.headers, ...headers },
      ...(hasBody ? { body: JSON.stringify(rest.body) } : {}),
      ...(signal === undefined ? {} : { signal }),
    });
    if (!response.ok) throw new ApiProblem(response.status, await problemOf(response));
    const text = await response.text();
    return (text === '' ? null : JSON.parse(text)) as Reply<N, A>;
  };
