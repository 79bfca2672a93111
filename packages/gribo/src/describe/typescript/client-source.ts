import { SourceWriter } from '../../codegen/source-writer.js';
import type { Contract } from '../../contract/contract.js';

/** What every client is, whatever the API. */
const CLIENT = `
type Name = keyof typeof routes;

/** What a call needs: parameters of the path and a body where there are any; a query where one is taken. */
export type Call<N extends Name, A extends Audience> = (N extends keyof PathParameters ? { readonly path: PathParameters[N] } : unknown) &
  (N extends keyof Requests ? { readonly body: A extends keyof Requests[N] ? Requests[N][A] : never } : unknown) &
  (N extends keyof Files ? { readonly files: Files[N] } : unknown) &
  (N extends keyof Queries ? (object extends Queries[N] ? { readonly query?: Queries[N] } : { readonly query: Queries[N] }) : unknown) & {
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
  readonly type?: string;
  /** Tells a problem of an endpoint's own apart. */
  readonly code?: string;
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
    super(problem.detail ?? problem.title ?? \`The API answered \${status}.\`);
    this.name = 'ApiProblem';
    this.status = status;
    this.problem = problem;
  }
}

/** Whether an endpoint refused with a problem of its own: then its details are known. */
export const isProblem = <N extends keyof Problems, C extends (Problems[N] & { readonly code: string })['code']>(
  error: unknown,
  _name: N,
  code: C,
): error is ApiProblem & { readonly problem: Extract<Problems[N], { readonly code: C }> } =>
  error instanceof ApiProblem && error.problem.code === code;

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
  readonly files?: Readonly<Record<string, Blob | undefined>>;
  readonly headers?: Readonly<Record<string, string>>;
  readonly signal?: AbortSignal;
}

const urlOf = (base: string, path: string, call: AnyCall): string => {
  const filled = path.replace(/\\{([^}]*)\\}/g, (_whole, name: string) => encodeURIComponent(String(call.path?.[name])));
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(call.query ?? {})) {
    if (value === null) query.set(name, '');
    else if (value !== undefined) query.set(name, Array.isArray(value) ? value.join(',') : String(value));
  }
  return base + filled + (query.size === 0 ? '' : \`?\${query}\`);
};

/** A form of files, and of what is told with them: what is no text is JSON. */
const formOf = ({ body = {}, files = {} }: AnyCall): FormData => {
  const form = new FormData();
  for (const [name, value] of Object.entries(body as object)) {
    if (value !== undefined && value !== null)
      form.append(name, typeof value === 'object' ? JSON.stringify(value) : String(value));
  }
  for (const [name, file] of Object.entries(files)) if (file !== undefined) form.append(name, file);
  return form;
};

const problemOf = async (response: Response): Promise<ProblemDetails> => {
  try {
    return (await response.json()) as ProblemDetails;
  } catch {
    return {};
  }
};

/**
 * Makes a client of the API for one audience: \`const call = connect({ base })\`, then
 * \`await call('…', { path, query, body })\`. Where the API answers with a problem, it throws an ApiProblem.
 */
export const connect =
  <A extends Audience = ''>(options: ClientOptions) =>
  async <N extends Name>(name: N, ...[call]: object extends Call<N, A> ? [Call<N, A>?] : [Call<N, A>]): Promise<Reply<N, A>> => {
    const [method, path, sends] = routes[name];
    const { headers, signal, ...rest }: AnyCall = call ?? {};
    const hasBody = rest.body !== undefined && rest.files === undefined;
    const type = method === 'PATCH' ? 'application/merge-patch+json' : 'application/json';
    const response = await (options.fetch ?? fetch)(urlOf(options.base, path, rest), {
      method,
      headers: { accept: sends === 'file' ? '*/*' : 'application/json', ...(hasBody ? { 'content-type': type } : {}), ...options.headers, ...headers },
      ...(hasBody ? { body: JSON.stringify(rest.body) } : rest.files === undefined ? {} : { body: formOf(rest) }),
      ...(signal === undefined ? {} : { signal }),
    });
    if (!response.ok) throw new ApiProblem(response.status, await problemOf(response));
    if (sends === 'file') return (await response.blob()) as Reply<N, A>;
    const text = await response.text();
    return (text === '' ? null : JSON.parse(text)) as Reply<N, A>;
  };
`;

/**
 * A small client of an API in TypeScript, over the platform's `fetch`, typed by what `typesSource`
 * declares. It imports nothing else.
 *
 * @param contract what `contractOf` returns
 * @param types the path of the module with the types
 * @returns TypeScript
 * @example
 * clientSource(contractOf(harbour)).includes('export const connect') // => true
 */
export const clientSource = (contract: Contract, types = './types.js'): string => {
  const out = new SourceWriter();
  out.line(
    `import type { Audience, Files, PathParameters, Problems, Queries, Requests, Responses } from ${out.quoted(types)};`,
  );
  out.line('');
  if (contract.edition !== undefined) {
    out.line(
      '/** The edition that it was made for: to be named where the API wants it, as in a path or a header. */',
    );
    out.line(`export const edition = ${out.quoted(contract.edition)};`);
    out.line('');
  }
  out.line('const routes = {');
  for (const { name, method, path, file } of contract.endpoints) {
    const sends = file === undefined ? 'body' : 'file';
    out.line(`  ${out.quoted(name)}: [${out.quoted(method)}, ${out.quoted(path)}, ${out.quoted(sends)}],`);
  }
  out.line('} as const;');
  return `${out.toString()}\n${CLIENT}`;
};
