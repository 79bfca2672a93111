/** A response before a host sends it. */
export interface Answer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  /** Text is sent as UTF-8; a stream is sent while it is made, and can fail midway. */
  readonly content: string | Uint8Array | ReadableStream<Uint8Array> | null;
}

const streamed = new WeakSet<Response>();

/** The same as the Fetch standard has it. */
export const responseOf = ({ status, headers, content }: Answer): Response => {
  // No format gives bytes of shared memory, which could not be sent.
  const response = new Response(content as BodyInit | null, { status, headers });
  if (content instanceof ReadableStream) streamed.add(response);
  return response;
};

/** Whether a response is sent while it is made, so that it can fail midway. */
export const isStreamed = (response: Response): boolean => streamed.has(response);

/** What a handler of an application's own has answered: whole where its body is no list that is sent while it is made. */
export const answerOf = async (response: Response): Promise<Answer> => ({
  status: response.status,
  headers: Object.fromEntries(response.headers),
  content:
    isStreamed(response) || response.body === null
      ? response.body
      : new Uint8Array(await response.arrayBuffer()),
});
