import { MalformedBody } from './format.js';
import { joined } from './gathered.js';

const NEWLINE = 10;

/**
 * The lines of a body as they come, without their ends; what is behind the last end too.
 *
 * @param longest the most bytes of a line
 * @throws {MalformedBody} `long` where a line is longer
 */
export async function* linesOf(body: AsyncIterable<Uint8Array>, longest: number): AsyncGenerator<Uint8Array> {
  let parts: Uint8Array[] = [];
  let size = 0;
  const add = (part: Uint8Array): void => {
    size += part.length;
    if (size > longest) throw new MalformedBody({ name: 'long' });
    parts.push(part);
  };
  const whole = (): Uint8Array => {
    const line = joined(parts);
    parts = [];
    size = 0;
    return line;
  };
  for await (const chunk of body) {
    let start = 0;
    for (let end = chunk.indexOf(NEWLINE); end !== -1; end = chunk.indexOf(NEWLINE, start)) {
      add(chunk.subarray(start, end));
      yield whole();
      start = end + 1;
    }
    if (start < chunk.length) add(chunk.subarray(start));
  }
  if (size > 0) yield whole();
}
