/** Parts as one: the same bytes where there is one part. */
export const joined = (parts: readonly Uint8Array[]): Uint8Array => {
  const [only] = parts;
  return parts.length === 1 && only !== undefined ? only : Buffer.concat(parts);
};

/** All bytes of a body, which is bounded already. */
export const gathered = async (body: AsyncIterable<Uint8Array>): Promise<Uint8Array> => {
  const chunks: Uint8Array[] = [];
  for await (const chunk of body) chunks.push(chunk);
  return joined(chunks);
};
