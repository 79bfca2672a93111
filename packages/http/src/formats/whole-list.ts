import type { Reader } from 'gribo';
import { MalformedBody, type RowRead } from './format.js';

/**
 * The rows of a list that is there as a whole.
 *
 * @throws {MalformedBody} `list` where it is none
 */
export function* wholeList(value: unknown, reader: Reader<object>): Generator<RowRead> {
  if (!Array.isArray(value)) throw new MalformedBody({ name: 'list' });
  for (const item of value) yield { result: reader.object(item) };
}
