import type { Format } from './format.js';
import { content, DECLARATION, NULLABLE, nameAttribute, xmlDocument } from './write-xml.js';
import { xmlName } from './xml-names.js';

export interface XmlOptions {
  /** The name of the outermost element. Default: `response`. */
  readonly root?: string;
  /** The name of the elements of an array. Default: `item`. */
  readonly item?: string;
}

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
  const outermost = xmlName(root);
  const named = NULLABLE + nameAttribute(root);
  return {
    name: 'xml',
    mediaTypes: ['application/xml', 'text/xml'],
    isText: true,
    hasOnlyText: true,
    write: (sending) => xmlDocument(outermost, named, content(sending.value(), item)),
    stream: async function* (sending) {
      yield `${DECLARATION}<${outermost}${named}>`;
      for await (const rows of sending.batches()) yield content(rows, item);
      yield `</${outermost}>\n`;
    },
    read: async (body, reader) => {
      const { readXml } = await import('./read-xml.js');
      return readXml(body, reader, item);
    },
  };
};
