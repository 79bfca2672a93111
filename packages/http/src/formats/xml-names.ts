/** The namespace of what says that an element is null (XML Schema, section 2.7.2). */
export const INSTANCE = 'http://www.w3.org/2001/XMLSchema-instance';

/** Characters that XML 1.0 (section 2.2) cannot hold, escaped or not. */
const UNWRITABLE =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters meant
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  // Written as they are, these would be read as a line feed, or in an attribute as a space (sections 2.11 and 3.3.3).
  '\r': '&#13;',
  '\n': '&#10;',
  '\t': '&#9;',
};

/** Text with U+FFFD in the place of what XML cannot hold. */
const writable = (text: string): string => text.replace(UNWRITABLE, '\ufffd');

/** Text as it stands between tags. */
export const xmlText = (text: string): string =>
  writable(text).replace(/[&<>\r]/g, (one) => ESCAPES[one] ?? one);

/** Text as it stands in an attribute, in double quotes. */
export const xmlAttribute = (text: string): string =>
  writable(text).replace(/[&<>"\r\n\t]/g, (one) => ESCAPES[one] ?? one);

/**
 * What a name starts with (XML 1.0, section 2.3: NameStartChar), as far as parsers of its fourth edition know it too, for
 * there are many: letters of Latin, Greek, Cyrillic, kana, Chinese and Korean. The colon is for prefixes.
 */
const START =
  'A-Z_a-z\\u00c0-\\u00d6\\u00d8-\\u00f6\\u00f8-\\u00ff\\u038e-\\u03a1\\u03a3-\\u03ce\\u0401-\\u040c\\u040e-\\u044f\\u0451-\\u045c\\u3041-\\u3094\\u30a1-\\u30fa\\u4e00-\\u9fa5\\uac00-\\ud7a3';

const STARTS = new RegExp(`^[${START}]`, 'u');
const NO_PART = new RegExp(`[^${START}\\-.0-9\\u00b7]`, 'gu');

/** The name of an element (XML 1.0, section 2.3: NameChar): what cannot be in it becomes `_`. */
export const xmlName = (name: string): string => {
  const valid = name.replace(NO_PART, '_');
  return STARTS.test(valid) && !/^xml/i.test(valid) ? valid : `_${valid}`;
};
