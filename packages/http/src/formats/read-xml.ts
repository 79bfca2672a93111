import type { Reader, ReadResult } from 'gribo';
import type { InputField } from 'gribo/kit';
import { MalformedBody, textOf } from './format.js';
import { type Parsed, parseXml } from './parse-xml.js';
import { xmlName } from './xml-names.js';

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

/** Reads an element as an input. */
export const readXml = (body: Uint8Array, reader: Reader<object>, item: string): ReadResult<object> =>
  reader.object(membersOf(reader.plan.fields, parseXml(textOf(body), reader.limits), item));
