import type { Format } from './format.js';

/** JSON (RFC 8259), and JSON merge patches (RFC 7396) for what is amended. */
export const json: Format = {
  name: 'json',
  mediaTypes: ['application/json'],
  alsoReads: ['application/merge-patch+json'],
  write: (sending) => sending.json(),
  stream: (sending) => sending.json(),
  read: (body, reader) => reader.json(body),
};
