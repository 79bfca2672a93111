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

/** A text of so many characters for each item that it may have is parsed at once, whatever is in it. */
const CHARACTERS = 8;

/** What stands in front of each member and item: of one that is not the first in its object or array, a comma. */
const BEGINNINGS = [',', '[', '{'];

/** Whether a JSON text could have more members and items than so many; characters in its strings count too. */
export const mayHaveMore = (text: string, most: number): boolean => {
  if (text.length <= most * CHARACTERS) return false;
  let left = most;
  for (const beginning of BEGINNINGS) {
    for (let at = text.indexOf(beginning); at !== -1; at = text.indexOf(beginning, at + 1)) {
      if (--left < 0) return true;
    }
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

const SHORT_ESCAPED_NAME = /"\\(?:u[\dA-Fa-f]{4}|[^u])"[ \t\n\r]*:/;

/**
 * Whether a member's name of one character may be written as an escape in a JSON text. Some engines (V8 of Node 24
 * and 26) take such a name for a backslash where an object like it had one: these texts are not left to them.
 */
export const hasShortEscapedName = (text: string): boolean =>
  text.includes('\\') && SHORT_ESCAPED_NAME.test(text);
