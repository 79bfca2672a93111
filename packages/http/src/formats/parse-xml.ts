import type { BodyLimits } from 'gribo';
import { type SaxesAttributeNS, SaxesParser, type SaxesTagNS } from 'saxes';
import { MalformedBody } from './format.js';
import { PartCount } from './part-count.js';
import { INSTANCE } from './xml-names.js';

/** An element of a request, with the names that were read. */
export interface Parsed {
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
export const parseXml = (text: string, { items, depth }: BodyLimits): Parsed | undefined => {
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
