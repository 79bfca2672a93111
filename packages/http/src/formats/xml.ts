import { XMLBuilder, XMLParser, XMLValidator } from 'fast-xml-parser';
import type { InputField } from 'gribo/kit';
import { type Format, MalformedBody, textOf } from './format.js';
import { xmlName, xmlText } from './xml-names.js';

export interface XmlOptions {
  /** The name of the outermost element. Default: `response`. */
  readonly root?: string;
  /** The name of the elements of an array. Default: `item`. */
  readonly item?: string;
}

/** An element as the builder takes it: its name with its children, and its attributes under `:@`. */
type Element = Readonly<Record<string, unknown>>;

const INSTANCE = 'http://www.w3.org/2001/XMLSchema-instance';
const DECLARATION = '<?xml version="1.0" encoding="UTF-8"?>\n';
const ATTRIBUTES = ':@';
const TEXT = '#text';

const builder = new XMLBuilder({
  preserveOrder: true,
  ignoreAttributes: false,
  suppressEmptyNode: true,
  suppressBooleanAttributes: false,
});

/** Null is an empty element that says so (XML Schema, section 2.7.2). */
const element = (name: string, value: unknown, item: string, attributes: object = {}): Element => {
  const valid = xmlName(name);
  const said = valid === name ? attributes : { ...attributes, '@_name': xmlText(name) };
  if (value === null) return { [valid]: [], [ATTRIBUTES]: { ...said, '@_xsi:nil': 'true' } };
  return { [valid]: childrenOf(value, item), [ATTRIBUTES]: said };
};

const childrenOf = (value: unknown, item: string): readonly Element[] => {
  if (Array.isArray(value)) return value.map((each) => element(item, each, item));
  if (typeof value === 'object' && value !== null) {
    return Object.entries(value).map(([name, member]) => element(name, member, item));
  }
  return value === '' ? [] : [{ [TEXT]: xmlText(String(value)) }];
};

const parser = new XMLParser({
  ignoreAttributes: false,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
  processEntities: false,
  alwaysCreateTextNode: true,
});

const ENTITIES: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };

const character = (digits: string): string => {
  const code = Number(digits.startsWith('x') ? `0${digits}` : digits);
  if (code > 0x10ffff || xmlText(String.fromCodePoint(code)) === '\ufffd') {
    throw new MalformedBody({ name: 'character' });
  }
  return String.fromCodePoint(code);
};

/** The text with the entities that XML itself knows; others would have to be declared, and are refused. */
const unescaped = (text: string): string =>
  text.replace(/&(#x[\da-fA-F]{1,6}|#\d{1,7}|\w*);?/g, (_whole, name: string) => {
    if (name.startsWith('#')) return character(name.slice(1));
    const known = Object.hasOwn(ENTITIES, name) ? ENTITIES[name] : undefined;
    if (known === undefined) throw new MalformedBody({ name: 'entity' });
    return known;
  });

type Parsed = Readonly<Record<string, unknown>>;

const isElement = (value: unknown): value is Parsed => typeof value === 'object' && value !== null;

const isNil = (value: Parsed): boolean => value['@_xsi:nil'] === 'true' || value['@_nil'] === 'true';

const isMember = (name: string): boolean => !name.startsWith('@_') && name !== TEXT;

/** An element's members, each turned by what the input says it is. */
const membersOf = (fields: readonly InputField[], parsed: unknown, item: string): unknown => {
  if (!isElement(parsed)) return parsed;
  if (isNil(parsed)) return null;
  const made = Object.create(null) as Record<string, unknown>;
  const known = new Map(fields.map((field) => [xmlName(field.name), field]));
  for (const [name, value] of Object.entries(parsed)) {
    if (!isMember(name)) continue;
    const field = known.get(name);
    made[field?.name ?? name] = field === undefined ? 'unknown' : memberOf(field, value, item);
  }
  return made;
};

const memberOf = ({ node }: InputField, parsed: unknown, item: string): unknown => {
  if (Array.isArray(parsed)) throw new MalformedBody({ name: 'element' });
  if (!isElement(parsed)) return parsed;
  if (isNil(parsed)) return null;
  if (node.kind === 'set') {
    return Object.keys(parsed).some(isMember) ? {} : unescaped(String(parsed[TEXT] ?? ''));
  }
  if (node.kind === 'inputGroup') return membersOf(node.fields, parsed, item);
  if (node.link.kind === 'toOne') return membersOf(node.input.fields, parsed, item);
  const rows = parsed[item] ?? [];
  return (Array.isArray(rows) ? rows : [rows]).map((row) => membersOf(node.input.fields, row, item));
};

const rootOf = (text: string): unknown => {
  // Without a document type there are no declared entities, so none that grow.
  if (/<!(?:DOCTYPE|ENTITY)/i.test(text)) throw new MalformedBody({ name: 'doctype' });
  const valid = XMLValidator.validate(text);
  if (valid !== true) throw new MalformedBody({ name: 'xml', line: valid.err.line });
  const parsed = parser.parse(text) as Parsed;
  const roots = Object.entries(parsed).filter(([name]) => !name.startsWith('?') && isMember(name));
  return roots[0]?.[1];
};

/**
 * XML: an element for each member, `item` for each row or value of an array, null as an empty element
 * with `xsi:nil`. A member whose name cannot be an element's keeps it in an attribute `name`.
 *
 * @param options `root` and `item`: the names of the outermost element and of an array's
 * @example
 * xml({ root: 'harbour', item: 'row' })
 */
export const xml = (options: XmlOptions = {}): Format => {
  const { root = 'response', item = 'item' } = options;
  return {
    name: 'xml',
    mediaTypes: ['application/xml', 'text/xml'],
    isText: true,
    hasOnlyText: true,
    write: (sending) => {
      const document = element(root, sending.value(), item, { '@_xmlns:xsi': INSTANCE });
      return `${DECLARATION}${builder.build([document])}\n`;
    },
    stream: async function* (sending) {
      yield `${DECLARATION}<${xmlName(root)} xmlns:xsi="${INSTANCE}">`;
      for await (const rows of sending.batches()) yield builder.build(childrenOf(rows, item));
      yield `</${xmlName(root)}>\n`;
    },
    read: (body, reader) => reader.object(membersOf(reader.plan.fields, rootOf(textOf(body)), item)),
  };
};
