/** What each request came in as. */
const hosts = new WeakMap<Request, object>();

/** Notes what a request came in as. */
export const noteHost = (request: Request, host: object): Request => {
  hosts.set(request, host);
  return request;
};

/**
 * The host's own request behind one that a handler is given: in Express and `node:http` the `IncomingMessage`, in
 * Fastify its request. What middleware or hooks found out about the caller is on it, such as `user`.
 *
 * @param request what `caller`, a handler or `decidedBy` was given
 * @returns the host's request, as what it is said to be; null where the host speaks Fetch itself
 * @example
 * serve(harbour, { store, caller: (request) => hostRequest<{ user: Person }>(request)?.user ?? null });
 */
export const hostRequest = <T extends object = object>(request: Request): T | null =>
  // What a host puts on its requests only its application knows.
  (hosts.get(request) as T | undefined) ?? null;
