import type { Reader } from 'gribo';
import { MalformedBody, type RowRead } from './format.js';

/** All bytes of a body, which is bounded already. */
export const gathered = async (body: AsyncIterable<Uint8Array>): Promise<Uint8Array> => {
  const chunks: Uint8Array[] = [];
  for await (const chunk of body) chunks.push(chunk);
  return Buffer.concat(chunks);
};

/**
 * The rows of a list that is there as a whole.
 *
 * @throws {MalformedBody} `list` where it is none
 */
export function* wholeList(value: unknown, reader: Reader<object>): Generator<RowRead> {
  if (!Array.isArray(value)) throw new MalformedBody({ name: 'list' });
  for (const item of value) yield { result: reader.object(item) };
}
