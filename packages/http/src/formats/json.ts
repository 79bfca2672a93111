import type { BodyLimits } from 'gribo';
import { ParseFailure, parseJson } from 'gribo/kit';
import { type Format, MalformedBody, textOf } from './format.js';
import { gathered } from './gathered.js';
import { wholeList } from './whole-list.js';

/** The value of a JSON text. Its size bounds how much is in it; each row is held to the other limits. */
const parsed = (body: Uint8Array, { depth }: BodyLimits): unknown => {
  try {
    return parseJson(textOf(body), { depth: depth + 1, items: body.length });
  } catch (error) {
    if (!(error instanceof ParseFailure)) throw error;
    const { code, pointer, reason } = error.issue;
    throw new MalformedBody(code === 'syntax' && reason !== null ? reason : { name: 'levels' }, pointer);
  }
};

/** JSON (RFC 8259), and JSON merge patches (RFC 7396) for what is amended. */
export const json: Format = {
  name: 'json',
  mediaTypes: ['application/json'],
  alsoReads: ['application/merge-patch+json'],
  write: (sending) => sending.json(),
  stream: (sending) => sending.json(),
  read: (body, reader) => reader.json(body),
  readRows: async function* (body, reader) {
    yield* wholeList(parsed(await gathered(body), reader.limits), reader);
  },
};
