import { type BodyLimits, pointerPart } from 'gribo';
import { type InputField, type InputPlan, ParseFailure, parseJson } from 'gribo/kit';
import { type Format, MalformedBody, textOf } from './format.js';
import { PartCount } from './part-count.js';

type Members = Record<string, unknown>;

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
const pairsOf = (text: string, parts: PartCount): Map<string, string> => {
  const pairs = new Map<string, string>();
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

/** The rows of a nested input are JSON text in one field, as in a cell of CSV. */
const parsedRows = (name: string, text: string, limits: BodyLimits): unknown => {
  try {
    return parseJson(text, limits);
  } catch (error) {
    if (!(error instanceof ParseFailure)) throw error;
    const { code, reason, pointer } = error.issue;
    const isTwice = code === 'syntax' && reason?.name === 'twice';
    if (isTwice) throw new MalformedBody({ name: 'twice' }, pointerPart(name) + pointer);
    throw new MalformedBody({ name: code === 'limit' ? 'items' : 'field' }, pointerPart(name));
  }
};

/** Takes the fields of an input out of the pairs; what is left is unknown. */
const take = (
  fields: readonly InputField[],
  prefix: string,
  pairs: Map<string, string>,
  limits: BodyLimits,
): Members => {
  const made = Object.create(null) as Members;
  for (const { name, node } of fields) {
    const full = prefix + name;
    const text = pairs.get(full);
    if (node.kind === 'set') {
      if (text !== undefined) made[name] = text === '' && node.column.nullable ? null : text;
    } else if (node.kind === 'nestedInput' && node.link.kind === 'toMany') {
      if (text !== undefined) made[name] = parsedRows(full, text, limits);
    } else {
      const inner = node.kind === 'inputGroup' ? node.fields : node.input.fields;
      const members = take(inner, `${full}.`, pairs, limits);
      if (Object.keys(members).length > 0) made[name] = members;
    }
    pairs.delete(full);
  }
  return made;
};

const membersOf = (plan: InputPlan, text: string, limits: BodyLimits): Members => {
  const pairs = pairsOf(text, new PartCount(limits.items));
  const members = take(plan.fields, '', pairs, limits);
  for (const [name, value] of pairs) members[name] = value;
  return members;
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
  read: (body, reader) => reader.object(membersOf(reader.plan, textOf(spaced(body)), reader.limits)),
};
