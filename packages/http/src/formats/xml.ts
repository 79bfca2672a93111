import { XMLBuilder } from 'fast-xml-parser';
import type { BodyLimits } from 'gribo';
import type { InputField } from 'gribo/kit';
import { type SaxesAttributeNS, SaxesParser, type SaxesTagNS } from 'saxes';
import { type Format, MalformedBody, textOf } from './format.js';
import { PartCount } from './part-count.js';
import { xmlAttribute, xmlName, xmlText } from './xml-names.js';

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
  // What it is given is escaped: it would leave line ends as they are.
  processEntities: false,
});

/** Null is an empty element that says so (XML Schema, section 2.7.2). */
const element = (name: string, value: unknown, item: string, attributes: object = {}): Element => {
  const valid = xmlName(name);
  const said = valid === name ? attributes : { ...attributes, '@_name': xmlAttribute(name) };
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

/** An element of a request, with the names that were read. */
interface Parsed {
  readonly isNil: boolean;
  readonly members: Map<string, Parsed[]>;
  text: string;
}

/** Whether an element says that it is null (XML Schema, section 2.7.2), under whatever prefix. */
const isNil = ({ local, uri, value }: SaxesAttributeNS): boolean =>
  local === 'nil' && (uri === INSTANCE || uri === '') && (value === 'true' || value === '1');

/** The member that an element is: a name that no element can have is in an attribute. */
const memberName = ({ local, attributes }: SaxesTagNS): string => attributes['name']?.value ?? local;

/** No tag has so many characters: the parser looks at each of them, and at nothing else meanwhile. */
const LONGEST_TAG = 8192;

/** Counts a character in a text. */
const countOf = (text: string, character: string, most: number): void => {
  const parts = new PartCount(most);
  for (let at = text.indexOf(character); at !== -1; at = text.indexOf(character, at + 1)) parts.add();
};

/** Looks for what would cost much, before it is parsed: many parts, long tags, a document type. */
const checkBefore = (text: string, items: number): void => {
  // An element has two tags; comments, instructions and sections of text begin like one.
  countOf(text, '<', items * 2 + 2);
  countOf(text, '&', items);
  countOf(text, '=', items);
  const start = text.search(/<[^!?]/);
  // Without a document type there are no declared entities, so none that grow.
  if (text.slice(0, start).includes('<!DOCTYPE')) throw new MalformedBody({ name: 'doctype' });
  for (let at = start; at !== -1; ) {
    const end = text.indexOf('>', at);
    const length = (end === -1 ? text.length : end) - at;
    if (length > LONGEST_TAG && !text.startsWith('<!', at)) throw new MalformedBody({ name: 'tag' });
    at = end === -1 ? -1 : text.indexOf('<', end);
  }
};

/** Parses a document, no deeper than the limit. */
const parsed = (text: string, { items, depth }: BodyLimits): Parsed | undefined => {
  checkBefore(text, items);
  const open: Parsed[] = [];
  let root: Parsed | undefined;
  // With more than seven of its events heard, this parser is four times as slow.
  const parser = new SaxesParser({ xmlns: true });
  const addText = (more: string): void => {
    const element = open.at(-1);
    if (element !== undefined) element.text += more;
  };
  parser.on('error', () => {
    throw new MalformedBody({ name: 'xml', line: parser.line });
  });
  parser.on('doctype', () => {
    throw new MalformedBody({ name: 'doctype' });
  });
  parser.on('opentag', (tag) => {
    // The outermost element and an array's items are levels of their own.
    if (open.length > depth * 2) throw new MalformedBody({ name: 'levels' });
    const attributes = Object.values(tag.attributes);
    const element: Parsed = { isNil: attributes.some(isNil), members: new Map(), text: '' };
    const name = memberName(tag);
    const above = open.at(-1)?.members;
    if (above === undefined) root = element;
    else if (above.has(name)) above.get(name)?.push(element);
    else above.set(name, [element]);
    open.push(element);
  });
  parser.on('closetag', () => {
    open.pop();
  });
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.write(text).close();
  return root;
};

/** Fields by their names, and by what elements of those names are called where no other one is called so. */
const fieldsByName = (fields: readonly InputField[]): ReadonlyMap<string, InputField> => {
  const named = new Map(fields.map((field) => [field.name, field]));
  for (const field of fields) {
    const element = xmlName(field.name);
    const others = fields.filter(({ name }) => xmlName(name) === element);
    if (others.length === 1 && !named.has(element)) named.set(element, field);
  }
  return named;
};

/** An element's members, each turned by what the input says it is. */
const membersOf = (fields: readonly InputField[], element: Parsed | undefined, item: string): unknown => {
  if (element === undefined || (element.members.size === 0 && element.text.trim() !== ''))
    return element?.text;
  if (element.isNil) return null;
  const made = Object.create(null) as Record<string, unknown>;
  const known = fieldsByName(fields);
  for (const [name, elements] of element.members) {
    const field = known.get(name);
    made[field?.name ?? name] = field === undefined ? 'unknown' : memberOf(field, elements, item);
  }
  return made;
};

const memberOf = ({ node }: InputField, [element, ...others]: readonly Parsed[], item: string): unknown => {
  if (others.length > 0) throw new MalformedBody({ name: 'element' });
  if (element === undefined || element.isNil) return null;
  if (node.kind === 'set') return element.members.size > 0 ? {} : element.text;
  if (node.kind === 'inputGroup') return membersOf(node.fields, element, item);
  if (node.link.kind === 'toOne') return membersOf(node.input.fields, element, item);
  return (element.members.get(xmlName(item)) ?? []).map((row) => membersOf(node.input.fields, row, item));
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
    read: (body, reader) =>
      reader.object(membersOf(reader.plan.fields, parsed(textOf(body), reader.limits), item)),
  };
};
