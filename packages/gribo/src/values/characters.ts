const isHigh = (code: number): boolean => code >= 0xd800 && code < 0xdc00;
const isLow = (code: number): boolean => code >= 0xdc00 && code < 0xe000;

/** How many characters a text has, as JSON Schema and databases count them: one of two UTF-16 units is one. */
export const characters = (text: string): number => {
  let count = text.length;
  for (let at = 1; at < text.length; at++) {
    if (isLow(text.charCodeAt(at)) && isHigh(text.charCodeAt(at - 1))) count--;
  }
  return count;
};
