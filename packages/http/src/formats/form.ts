import { pointerPart } from 'gribo';
import { type Cells, flatMembers } from './flat-members.js';
import { type Format, MalformedBody, textOf } from './format.js';
import { PartCount } from './part-count.js';

const PLUS = 43;
const SPACE = 32;

/** The body with its spaces, for which a plus sign stands: a plus sign itself is escaped. */
const spaced = (body: Uint8Array): Uint8Array => body.map((byte) => (byte === PLUS ? SPACE : byte));

const decoded = (text: string): string => {
  try {
    return decodeURIComponent(text);
  } catch {
    throw new MalformedBody({ name: 'escape' });
  }
};

/** The names and values of a form (WHATWG URL, section 5). */
const pairsOf = (text: string, parts: PartCount): Cells => {
  const pairs: Cells = new Map();
  for (let start = 0; start <= text.length; ) {
    const next = text.indexOf('&', start);
    const end = next === -1 ? text.length : next;
    const part = text.slice(start, end);
    start = end + 1;
    parts.add();
    if (part === '') continue;
    const at = part.indexOf('=');
    const name = decoded(at === -1 ? part : part.slice(0, at));
    if (pairs.has(name)) throw new MalformedBody({ name: 'twice' }, pointerPart(name.slice(0, 60)));
    pairs.set(name, at === -1 ? '' : decoded(part.slice(at + 1)));
  }
  return pairs;
};

/**
 * What HTML forms send (`application/x-www-form-urlencoded`), for requests: dotted names for groups
 * and to-one rows, JSON text for to-many rows, an empty value for null where there may be none.
 */
export const form: Format = {
  name: 'form',
  mediaTypes: ['application/x-www-form-urlencoded'],
  hasOnlyText: true,
  isFlat: true,
  read: (body, reader) => {
    const pairs = pairsOf(textOf(spaced(body)), new PartCount(reader.limits.items));
    return reader.object(flatMembers(reader.plan, pairs, { limits: reader.limits, emptyIsNull: true }));
  },
};
