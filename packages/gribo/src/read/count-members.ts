const QUOTE = 34;
const BACKSLASH = 92;
const COLON = 58;

/** Whether a quote is part of the string: an odd number of backslashes stands before it. */
const isEscaped = (text: string, at: number): boolean => {
  let before = at - 1;
  while (text.charCodeAt(before) === BACKSLASH) before--;
  return (at - before) % 2 === 0;
};

const isSpace = (code: number): boolean => code === 32 || code === 10 || code === 13 || code === 9;

const COMMA = 44;
const BRACKET = 91;
const BRACE = 123;

/** Whether a JSON text could have more members and items than so many; characters in its strings count too. */
export const mayHaveMore = (text: string, most: number): boolean => {
  // Each of them takes two characters at least.
  if (text.length <= most * 2) return false;
  let found = 0;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if ((code === COMMA || code === BRACKET || code === BRACE) && ++found > most) return true;
  }
  return false;
};

/**
 * How many members the objects in a JSON text have, as they were written: more than the parsed
 * value has where one is there twice. The text is known to be JSON.
 */
export const countMembers = (text: string): number => {
  let members = 0;
  for (let start = text.indexOf('"'); start !== -1; ) {
    let end = text.indexOf('"', start + 1);
    while (text.charCodeAt(end - 1) === BACKSLASH && isEscaped(text, end)) end = text.indexOf('"', end + 1);
    let next = end + 1;
    while (isSpace(text.charCodeAt(next))) next++;
    if (text.charCodeAt(next) === COLON) members++;
    start = text.charCodeAt(next) === QUOTE ? next : text.indexOf('"', next);
  }
  return members;
};
