import { INSTANCE, xmlAttribute, xmlName, xmlText } from './xml-names.js';

export const DECLARATION = '<?xml version="1.0" encoding="UTF-8"?>\n';

/** What an outermost element says of the prefix under which elements are null: as attributes stand in a tag. */
export const NULLABLE: string = ` xmlns:xsi="${INSTANCE}"`;

const NULL = ' xsi:nil="true"';

/** A name that cannot be an element's is kept in an attribute. */
export const nameAttribute = (name: string): string =>
  xmlName(name) === name ? '' : ` name="${xmlAttribute(name)}"`;

const element = (name: string, value: unknown, item: string): string => {
  const [valid, named] = [xmlName(name), nameAttribute(name)];
  return value === null ? `<${valid}${named}${NULL}/>` : tagged(valid, named, content(value, item));
};

const tagged = (name: string, attributes: string, inside: string): string =>
  inside === '' ? `<${name}${attributes}/>` : `<${name}${attributes}>${inside}</${name}>`;

/** What stands in an element of a JSON-ready value: elements for members, and for the values of an array. */
export const content = (value: unknown, item: string): string => {
  if (typeof value !== 'object' || value === null) return xmlText(String(value));
  let made = '';
  if (Array.isArray(value)) for (const each of value) made += element(item, each, item);
  else
    for (const [name, member] of Object.entries(value))
      if (member !== undefined) made += element(name, member, item);
  return made;
};

/** Whether an element of some content is null; text that reads like it counts too. */
export const hasNulls = (inside: string): boolean => inside.includes(NULL);

/** A document of one element, whose attributes are as they stand in its tag. */
export const xmlDocument = (root: string, attributes: string, inside: string): string =>
  `${DECLARATION}${tagged(root, attributes, inside)}\n`;
