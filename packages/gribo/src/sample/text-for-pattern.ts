import { oneFrom, type Random, wholeBetween } from './random.js';

/** Text that is made piece by piece. */
type Make = (random: Random) => string;

const DIGITS = '0123456789';
const LETTERS = 'abcdefghijklmnopqrstuvwxyz';
const WORD = `${LETTERS}${LETTERS.toUpperCase()}${DIGITS}`;
const PRINTABLE = Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)).join('');

const CLASSES: Readonly<Record<string, string>> = {
  d: DIGITS,
  w: WORD,
  s: ' ',
  D: LETTERS,
  W: ' -.',
  S: WORD,
  n: '\n',
  t: '\t',
};

/** The most repetitions where a pattern sets no limit. */
const MOST = 6;

/** A part of a pattern that this cannot make text for, such as a look-ahead. */
class Unmakeable extends Error {}

/** Reads a regular expression's source, and makes what matches it. */
class PatternReader {
  readonly #source: string;
  #at = 0;

  constructor(source: string) {
    this.#source = source;
  }

  /** Alternatives up to a closing bracket or the end. */
  alternatives(): Make {
    const all = [this.#sequence()];
    while (this.#take('|')) all.push(this.#sequence());
    return (random) => oneFrom(random, all)(random);
  }

  isAtEnd(): boolean {
    return this.#at >= this.#source.length;
  }

  #take(text: string): boolean {
    if (!this.#source.startsWith(text, this.#at)) return false;
    this.#at += text.length;
    return true;
  }

  #next(): string {
    const letter = this.#source[this.#at++];
    if (letter === undefined) throw new Unmakeable();
    return letter;
  }

  #sequence(): Make {
    const parts: Make[] = [];
    while (!this.isAtEnd() && !['|', ')'].includes(this.#source[this.#at] ?? '')) {
      const atom = this.#atom();
      if (atom !== null) parts.push(this.#repeated(atom));
    }
    return (random) => parts.map((make) => make(random)).join('');
  }

  /** One thing that can be repeated; null for what stands for no text. */
  #atom(): Make | null {
    const letter = this.#next();
    if (letter === '^' || letter === '$') return null;
    if (letter === '(') return this.#group();
    if (letter === '[') return from(this.#set());
    if (letter === '.') return from(WORD);
    if (letter !== '\\') return () => letter;
    const escaped = this.#next();
    if (escaped === 'b' || escaped === 'B') return null;
    return this.#escape(escaped);
  }

  #escape(escaped: string): Make {
    if (escaped === 'p' || escaped === 'P') {
      this.#until('}');
      return from(LETTERS.toUpperCase());
    }
    if (escaped === 'u' || escaped === 'x' || /[1-9k]/.test(escaped)) throw new Unmakeable();
    const known = CLASSES[escaped];
    return known === undefined ? () => escaped : from(known);
  }

  #until(end: string): string {
    const close = this.#source.indexOf(end, this.#at);
    if (close === -1) throw new Unmakeable();
    const text = this.#source.slice(this.#at, close);
    this.#at = close + end.length;
    return text;
  }

  #group(): Make {
    if (this.#take('?:') || this.#take('?<')) {
      const isNamed = this.#source[this.#at - 1] === '<';
      if (isNamed && /[=!]/.test(this.#source[this.#at] ?? '')) throw new Unmakeable();
      if (isNamed) this.#until('>');
    } else if (this.#source[this.#at] === '?') throw new Unmakeable();
    const inside = this.alternatives();
    if (!this.#take(')')) throw new Unmakeable();
    return inside;
  }

  /** The letters of a class in brackets. */
  #set(): string {
    const isNegated = this.#take('^');
    let letters = '';
    while (!this.#take(']')) {
      const letter = this.#next();
      if (letter === '\\') letters += this.#setEscape();
      else if (this.#source[this.#at] === '-' && this.#source[this.#at + 1] !== ']') {
        this.#at++;
        letters += range(letter, this.#next());
      } else letters += letter;
    }
    const wanted = isNegated
      ? [...PRINTABLE].filter((letter) => !letters.includes(letter)).join('')
      : letters;
    if (wanted === '') throw new Unmakeable();
    return wanted;
  }

  #setEscape(): string {
    const escaped = this.#next();
    if (escaped === 'p' || escaped === 'P') {
      this.#until('}');
      return LETTERS;
    }
    if (escaped === 'u' || escaped === 'x') throw new Unmakeable();
    return CLASSES[escaped] ?? escaped;
  }

  #repeated(atom: Make): Make {
    const [min, max] = this.#times();
    this.#take('?');
    return (random) => Array.from({ length: wholeBetween(random, min, max) }, () => atom(random)).join('');
  }

  #times(): readonly [number, number] {
    if (this.#take('*')) return [0, MOST];
    if (this.#take('+')) return [1, MOST];
    if (this.#take('?')) return [0, 1];
    if (!this.#take('{')) return [1, 1];
    const [, least, comma, most] = /^(\d+)(,?)(\d*)$/.exec(this.#until('}')) ?? [];
    if (least === undefined) throw new Unmakeable();
    const min = Number(least);
    if (comma === '') return [min, min];
    return [min, most === '' ? min + MOST : Number(most)];
  }
}

const from =
  (letters: string): Make =>
  (random) =>
    oneFrom(random, Array.from(letters));

const range = (first: string, last: string): string => {
  const start = first.charCodeAt(0);
  const length = last.charCodeAt(0) - start + 1;
  return Array.from({ length: Math.max(0, length) }, (_, i) => String.fromCharCode(start + i)).join('');
};

/** A maker of text that matches a pattern; null where the pattern says more than this can follow. */
export const textForPattern = (pattern: RegExp): Make | null => {
  const reader = new PatternReader(pattern.source);
  try {
    const make = reader.alternatives();
    return reader.isAtEnd() ? make : null;
  } catch (error) {
    if (error instanceof Unmakeable) return null;
    throw error;
  }
};
