import { XMLBuilder } from 'fast-xml-parser';
import type { InputField } from 'gribo/kit';
import { type Format, MalformedBody, textOf } from './format.js';
import { INSTANCE, type Parsed, parseXml } from './parse-xml.js';
import { xmlAttribute, xmlName, xmlText } from './xml-names.js';

export interface XmlOptions {
  /** The name of the outermost element. Default: `response`. */
  readonly root?: string;
  /** The name of the elements of an array. Default: `item`. */
  readonly item?: string;
}

/** An element as the builder takes it: its name with its children, and its attributes under `:@`. */
type Element = Readonly<Record<string, unknown>>;

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

/** The values of an array, each in an element; a text is none. */
const valuesOf = (element: Parsed, item: string): unknown => {
  if (element.members.size === 0) return element.text.trim() === '' ? [] : element.text;
  const values = element.members.get(xmlName(item)) ?? [];
  return values.map((value) => (value.members.size > 0 ? {} : value.text));
};

const memberOf = ({ node }: InputField, [element, ...others]: readonly Parsed[], item: string): unknown => {
  if (others.length > 0) throw new MalformedBody({ name: 'element' });
  if (element === undefined || element.isNil) return null;
  if (node.kind === 'set' && node.column.type.kind === 'array') return valuesOf(element, item);
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
      reader.object(membersOf(reader.plan.fields, parseXml(textOf(body), reader.limits), item)),
  };
};
