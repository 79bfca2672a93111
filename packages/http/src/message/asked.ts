/** A part of a body, or that there are no more. */
export type Part = { readonly done: false; readonly value: Uint8Array } | { readonly done: true };

/** The bytes of a body as they come. */
export interface Source {
  /** The next part: at once where it is there already. It is rejected where the body ends early. */
  read(): Part | Promise<Part>;
  /** Lets go of the rest. */
  cancel(): void;
}

/** A request as far as it is looked at, whatever host it came through. */
export interface Asked {
  readonly method: string;
  readonly url: string;
  /** Whether it can have a body. */
  readonly hasBody: boolean;
  /** A header by its name in lower case; several of one name as one text. */
  header(name: string): string | null;
  /** Tells where whoever asked goes away before there is an answer. */
  whenGone(told: () => void): void;
  /** Tells when the last of the answer has gone out, or cannot any more. @returns false where the host does not tell */
  whenSent(told: () => void): boolean;
  /** Its body, to be read once; null where it has none. */
  source(): Source | null;
  /** The same as the Fetch standard has it: what applications are given. */
  readonly request: Request;
}

/** Whether a request changes nothing (RFC 9110, section 9.2.1). */
export const isReading = ({ method }: Pick<Asked, 'method'>): boolean =>
  method === 'GET' || method === 'HEAD';

/** A body of the Fetch standard, part by part. */
export const sourceOf = (body: ReadableStream<Uint8Array>): Source => {
  const reader = body.getReader();
  return {
    read: async () => {
      const { done, value } = await reader.read();
      return done ? { done } : { done, value };
    },
    // That it cannot be cancelled either changes nothing.
    cancel: () => void reader.cancel().catch(() => undefined),
  };
};

/** A request that came as the Fetch standard has it. */
export const askedOf = (request: Request): Asked => ({
  method: request.method,
  url: request.url,
  hasBody: request.body !== null,
  header: (name) => request.headers.get(name),
  whenSent: () => false,
  whenGone: (told) => request.signal.addEventListener('abort', told, { once: true }),
  source: () => (request.body === null ? null : sourceOf(request.body)),
  request,
});
