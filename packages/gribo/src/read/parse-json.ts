import { ExactNumber } from '../values/exact-number.js';
import { JSON_NUMBER } from '../values/patterns.js';
import { type BareIssue, bareIssue, type IssueLimits, pointerPart, type SyntaxWanted } from './issue.js';

/** How large a body may be. */
export interface ParseLimits {
  /** Objects and arrays inside each other. */
  readonly depth: number;
  /** Members and array items in all. */
  readonly items: number;
}

/** A text that is no JSON, or too large. */
export class ParseFailure extends Error {
  readonly issue: BareIssue;
  constructor(issue: BareIssue) {
    super(issue.code);
    this.issue = issue;
  }
}

const NUMBER = new RegExp(JSON_NUMBER.source.slice(1, -1), 'y');
/** Characters up to the end of a string, or to the first that needs a second look. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: JSON forbids them in strings
const PLAIN = /[^"\\\u0000-\u001f]*/y;
const SPACE = /[ \t\n\r]*/y;
const HEX = /^[\da-fA-F]{4}$/;
const ESCAPES: Readonly<Record<string, string>> = {
  '"': '"',
  '\\': '\\',
  '/': '/',
  b: '\b',
  f: '\f',
  n: '\n',
  r: '\r',
  t: '\t',
};

/** Where the quote is that ends a string, looked for from inside it; -1 where there is none. */
const endOfString = (text: string, from: number): number => {
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === 34) return at;
    // What is escaped ends nothing.
    if (code === 92) at++;
  }
  return -1;
};

/** Parses strictly (RFC 8259): no member twice, no number changed, nothing deeper or larger than allowed. */
class JsonParser {
  readonly #text: string;
  readonly #limits: ParseLimits;
  #at = 0;
  #items = 0;
  readonly #path: (string | number)[] = [];

  constructor(text: string, limits: ParseLimits) {
    this.#text = text;
    this.#limits = limits;
  }

  document(): unknown {
    this.#space();
    const value = this.#value(0);
    this.#space();
    if (this.#at < this.#text.length) throw this.#syntax('end');
    return value;
  }

  #pointer(): string {
    return this.#path.map(pointerPart).join('');
  }

  #syntax(wanted: SyntaxWanted): ParseFailure {
    const before = this.#text.slice(0, this.#at);
    const line = before.split('\n').length;
    const column = this.#at - before.lastIndexOf('\n');
    return new ParseFailure(bareIssue('', 'syntax', { reason: { name: 'json', wanted, line, column } }));
  }

  #twice(): ParseFailure {
    return new ParseFailure(bareIssue(this.#pointer(), 'syntax', { reason: { name: 'twice' } }));
  }

  #limit(limits: IssueLimits): ParseFailure {
    return new ParseFailure(bareIssue(this.#pointer(), 'limit', { limits }));
  }

  #match(pattern: RegExp): string {
    pattern.lastIndex = this.#at;
    const [found = ''] = pattern.exec(this.#text) ?? [];
    this.#at += found.length;
    return found;
  }

  #space(): void {
    const code = this.#text.charCodeAt(this.#at);
    if (code === 32 || code === 10 || code === 13 || code === 9) this.#match(SPACE);
  }

  #take(character: string): boolean {
    if (this.#text[this.#at] !== character) return false;
    this.#at++;
    return true;
  }

  #value(depth: number): unknown {
    switch (this.#text[this.#at]) {
      case '{':
        return this.#object(depth + 1);
      case '[':
        return this.#array(depth + 1);
      case '"':
        return this.#string();
      case 't':
        return this.#word('true', true);
      case 'f':
        return this.#word('false', false);
      case 'n':
        return this.#word('null', null);
      default:
        return this.#number();
    }
  }

  #word<T>(word: string, value: T): T {
    if (!this.#text.startsWith(word, this.#at)) throw this.#syntax('value');
    this.#at += word.length;
    return value;
  }

  #number(): number | ExactNumber {
    const text = this.#match(NUMBER);
    if (text === '') throw this.#syntax('value');
    const value = Number(text);
    return Number.isSafeInteger(value) && /^-?\d+$/.test(text) ? value : new ExactNumber(text);
  }

  #count(): void {
    this.#items++;
    if (this.#items > this.#limits.items) {
      throw this.#limit({ items: this.#limits.items });
    }
  }

  #enter(depth: number): void {
    if (depth > this.#limits.depth) throw this.#limit({ depth: this.#limits.depth });
    this.#at++;
    this.#space();
  }

  #object(depth: number): object {
    this.#enter(depth);
    // Without a prototype, no name means anything but itself: `__proto__` is a member like others.
    const made: Record<string, unknown> = Object.create(null);
    if (this.#take('}')) return made;
    for (;;) {
      if (this.#text[this.#at] !== '"') throw this.#syntax('name');
      const name = this.#string();
      this.#path.push(name);
      if (name in made) throw this.#twice();
      this.#space();
      if (!this.#take(':')) throw this.#syntax('colon');
      this.#space();
      this.#count();
      made[name] = this.#value(depth);
      this.#path.pop();
      this.#space();
      if (this.#take('}')) return made;
      if (!this.#take(',')) throw this.#syntax('commaOrBrace');
      this.#space();
    }
  }

  #array(depth: number): unknown[] {
    this.#enter(depth);
    const made: unknown[] = [];
    if (this.#take(']')) return made;
    for (;;) {
      this.#path.push(made.length);
      this.#count();
      made.push(this.#value(depth));
      this.#path.pop();
      this.#space();
      if (this.#take(']')) return made;
      if (!this.#take(',')) throw this.#syntax('commaOrBracket');
      this.#space();
    }
  }

  #string(): string {
    const start = this.#at++;
    let made = this.#match(PLAIN);
    if (this.#take('"')) return made;
    const whole = this.#escaped(start);
    if (whole !== undefined) return whole;
    while (!this.#take('"')) {
      if (!this.#take('\\')) throw this.#syntax('quote');
      made += this.#escape();
      made += this.#match(PLAIN);
    }
    return made;
  }

  /** A string with escapes in it, if it is right; what is wrong with one, `#escape` finds. */
  #escaped(start: number): string | undefined {
    const end = endOfString(this.#text, this.#at);
    if (end === -1) return undefined;
    try {
      const made: unknown = JSON.parse(this.#text.slice(start, end + 1));
      if (typeof made !== 'string') return undefined;
      this.#at = end + 1;
      return made;
    } catch {
      return undefined;
    }
  }

  #escape(): string {
    const letter = this.#text[this.#at] ?? '';
    const plain = ESCAPES[letter];
    if (plain !== undefined) {
      this.#at++;
      return plain;
    }
    const digits = this.#text.slice(this.#at + 1, this.#at + 5);
    if (letter !== 'u' || !HEX.test(digits)) throw this.#syntax('escape');
    this.#at += 5;
    return String.fromCharCode(Number.parseInt(digits, 16));
  }
}

/**
 * Parses JSON so that nothing of it is lost: objects have no prototype, and numbers that
 * JavaScript would round or change are kept as their digits.
 *
 * @param text JSON (RFC 8259)
 * @param limits the most levels, and the most members and items in all
 * @returns the value; numbers that JavaScript would change keep their digits
 * @throws {ParseFailure} where the text is no JSON, or larger than the limits
 * @example
 * parseJson('{"a":[1,2]}', { depth: 2, items: 10 })
 */
export const parseJson = (text: string, limits: ParseLimits): unknown =>
  new JsonParser(text, limits).document();
