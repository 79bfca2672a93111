/** Characters that XML 1.0 (section 2.2) cannot hold, escaped or not. */
const UNWRITABLE =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters meant
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** Text with U+FFFD in the place of what XML cannot hold. */
export const xmlText = (text: string): string => text.replace(UNWRITABLE, '\ufffd');

/** The name of an element (XML 1.0, section 2.3): what cannot be in it becomes `_`. */
export const xmlName = (name: string): string => {
  const valid = name.replace(/[^\p{L}\p{N}_.-]/gu, '_');
  return /^[\p{L}_]/u.test(valid) && !/^xml/i.test(valid) ? valid : `_${valid}`;
};
