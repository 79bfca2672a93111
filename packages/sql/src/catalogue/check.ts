/** What a check says of one column. */
export type CheckFact =
  | { readonly kind: 'least' | 'most' | 'above' | 'below'; readonly column: string; readonly bound: string }
  | {
      readonly kind: 'shortest' | 'longest' | 'longer' | 'shorter';
      readonly column: string;
      readonly bound: string;
    }
  | { readonly kind: 'choices'; readonly column: string; readonly choices: readonly string[] }
  | { readonly kind: 'pattern'; readonly column: string; readonly pattern: string };

/** What stands on one side of a comparison. */
type Operand = Asked | { readonly kind: 'number' | 'text'; readonly value: string };

interface Asked {
  readonly kind: 'column' | 'length';
  readonly column: string;
}

const isAsked = (operand: Operand): operand is Asked => 'column' in operand;

interface Token {
  readonly kind: 'word' | 'quoted' | 'number' | 'text' | 'sign';
  readonly value: string;
}

const TOKEN =
  /\s*(?:(?<cast>::\s*(?:"[^"]*"|[a-z_]\w*)(?:\s+(?:varying|precision|with(?:out)? time zone))?(?:\(\d+(?:\s*,\s*\d+)?\))?(?:\[\])*)|_(?:utf8mb[34]|latin1)(?=')|(?<text>'(?:[^'\\]|''|\\.)*')|"(?<quoted>(?:[^"]|"")*)"|`(?<ticked>(?:[^`]|``)*)`|\[(?<bracketed>[^\]'"]*[a-z][^\]'"]*)\]|(?<number>\d+(?:\.\d+)?)|(?<word>[a-z_]\w*)|(?<sign><=|>=|<>|!=|[<>=~(),[\]-]))/iy;

/** The words and signs of a check; null where it has others. */
const tokensOf = (check: string): readonly Token[] | null => {
  const tokens: Token[] = [];
  const text = check.trim();
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.length) {
    const groups = TOKEN.exec(text)?.groups;
    if (groups === undefined) return null;
    const { text: literal, quoted, ticked, bracketed, number, word, sign } = groups;
    const named = quoted ?? ticked ?? bracketed;
    if (literal !== undefined)
      tokens.push({ kind: 'text', value: literal.slice(1, -1).replaceAll("''", "'").replaceAll("\\'", "'") });
    else if (named !== undefined) tokens.push({ kind: 'quoted', value: named });
    else if (number !== undefined) tokens.push({ kind: 'number', value: number });
    else if (word !== undefined) tokens.push({ kind: 'word', value: word });
    else if (sign !== undefined) tokens.push({ kind: 'sign', value: sign });
  }
  return tokens;
};

/** A check is none of the forms that are understood. */
class NotUnderstood extends Error {}

const TURNED: Readonly<Record<string, string>> = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '=': '=' };

const BOUNDS = { '>=': 'least', '<=': 'most', '>': 'above', '<': 'below' } as const;
const LENGTHS = { '>=': 'shortest', '<=': 'longest', '>': 'longer', '<': 'shorter' } as const;

const isBound = (sign: string): sign is keyof typeof BOUNDS => sign in BOUNDS;

/** Reads a check such as `(built_year between 1850 and 2100) and (length(name) > 1)`. */
class CheckReader {
  readonly #tokens: readonly Token[];
  readonly #length: RegExp;
  #at = 0;

  constructor(tokens: readonly Token[], length: RegExp) {
    this.#tokens = tokens;
    this.#length = length;
  }

  read(): readonly CheckFact[] {
    const facts = this.#all();
    if (this.#at < this.#tokens.length) throw new NotUnderstood();
    return facts;
  }

  #all(): readonly CheckFact[] {
    const facts = [...this.#one()];
    while (this.#takes('and')) facts.push(...this.#one());
    return facts;
  }

  /** Parentheses are around a condition or around one side of a comparison. */
  #one(): readonly CheckFact[] {
    const start = this.#at;
    if (this.#takes('(')) {
      try {
        const inside = this.#all();
        this.#expect(')');
        return inside;
      } catch (error) {
        if (!(error instanceof NotUnderstood)) throw error;
        this.#at = start;
      }
    }
    return this.#comparison();
  }

  #comparison(): readonly CheckFact[] {
    const left = this.#operand();
    if (this.#takes('between')) {
      const least = this.#operand();
      this.#expect('and');
      return [this.#fact(left, '>=', least), this.#fact(left, '<=', this.#operand())];
    }
    if (this.#takes('in')) return [this.#among(left)];
    const sign = this.#next();
    if (sign.value === '=' && this.#takes('any')) return [this.#among(left)];
    return [this.#fact(left, sign.value, this.#operand())];
  }

  #among(left: Operand): CheckFact {
    if (!isAsked(left) || left.kind !== 'column') throw new NotUnderstood();
    const choices: string[] = [];
    let depth = 0;
    do {
      const token = this.#next();
      if (token.value === '(' || token.value === '[') depth++;
      else if (token.value === ')' || token.value === ']') depth--;
      else if (token.kind === 'text') choices.push(token.value);
      else if (token.value !== ',' && !/^array$/i.test(token.value)) throw new NotUnderstood();
    } while (depth > 0);
    if (choices.length === 0) throw new NotUnderstood();
    return { kind: 'choices', column: left.column, choices };
  }

  #fact(left: Operand, sign: string, right: Operand): CheckFact {
    if (!isAsked(left)) {
      const turned = TURNED[sign];
      if (turned === undefined || !isAsked(right)) throw new NotUnderstood();
      return this.#fact(right, turned, left);
    }
    const { kind, column } = left;
    if (right.kind === 'text') {
      if (kind !== 'column') throw new NotUnderstood();
      if (sign === '~') return { kind: 'pattern', column, pattern: right.value };
      if (sign === '=') return { kind: 'choices', column, choices: [right.value] };
      throw new NotUnderstood();
    }
    if (right.kind !== 'number' || !isBound(sign)) throw new NotUnderstood();
    return { kind: kind === 'length' ? LENGTHS[sign] : BOUNDS[sign], column, bound: right.value };
  }

  #operand(): Operand {
    if (this.#takes('(')) {
      const inside = this.#operand();
      this.#expect(')');
      return inside;
    }
    if (this.#takes('-')) {
      const { kind, value } = this.#next();
      if (kind !== 'number') throw new NotUnderstood();
      return { kind: 'number', value: `-${value}` };
    }
    const { kind, value } = this.#next();
    if (kind === 'number' || kind === 'text') return { kind, value };
    if (kind === 'sign') throw new NotUnderstood();
    if (!this.#takes('(')) return { kind: 'column', column: value };
    const inside = this.#operand();
    this.#expect(')');
    if (kind !== 'word' || !this.#length.test(value) || !isAsked(inside) || inside.kind !== 'column')
      throw new NotUnderstood();
    return { kind: 'length', column: inside.column };
  }

  #next(): Token {
    const token = this.#tokens[this.#at++];
    if (token === undefined) throw new NotUnderstood();
    return token;
  }

  #takes(value: string): boolean {
    const token = this.#tokens[this.#at];
    if (token === undefined || token.kind === 'quoted' || token.kind === 'text') return false;
    if (token.value.toLowerCase() !== value) return false;
    this.#at++;
    return true;
  }

  #expect(value: string): void {
    if (!this.#takes(value)) throw new NotUnderstood();
  }
}

/** What counts the characters of a text in most databases. */
const LENGTH = /^(?:char(?:acter)?_)?length$/i;

/**
 * What a check says of single columns, where that is all it says; null for any other.
 *
 * @param length the names of functions that count the characters of a text
 */
export const factsOfCheck = (check: string, length: RegExp = LENGTH): readonly CheckFact[] | null => {
  const tokens = tokensOf(check.replace(/^\s*check\s*/i, '').replace(/\s+not valid\s*$/i, ''));
  if (tokens === null) return null;
  try {
    return new CheckReader(tokens, length).read();
  } catch (error) {
    if (error instanceof NotUnderstood) return null;
    throw error;
  }
};
