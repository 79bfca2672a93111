import type { ColumnKind } from '../plan/column-type.js';
import { freeze } from '../util/freeze.js';
import { ExactNumber } from '../values/exact-number.js';

/** What can be wrong with a value of a body. docs/reading.md says for each what it means. */
export type IssueCode =
  | 'type'
  | 'required'
  | 'unknown'
  | 'null'
  | 'range'
  | 'length'
  | 'pattern'
  | 'choice'
  | 'format'
  | 'fixed'
  | 'conflict'
  | 'limit'
  | 'syntax';

/** What is wanted in a place: a value of a kind, an object, or an array. */
export type Wanted = ColumnKind | 'object' | 'array';

/** Limits of a value or a body. What is not limited, or has nothing to do with the issue, is left out. */
export interface IssueLimits {
  /** Of a number its bounds, of a text its lengths; of a bigint as text. */
  readonly min?: number | string;
  readonly max?: number | string;
  /** The source of the pattern that a text has to match. */
  readonly pattern?: string;
  readonly choices?: readonly string[];
  /** Of a decimal: digits before the point, and after it. */
  readonly whole?: number;
  readonly fraction?: number;
  /** The entity whose rows have it set once, when they are created. */
  readonly entity?: string;
  /** The most bytes, levels, members and items, nested rows of a body, and the most issues that are told. */
  readonly bytes?: number;
  readonly depth?: number;
  readonly items?: number;
  readonly rows?: number;
  readonly issues?: number;
}

/** Why a body cannot be read, or a change not be stored. */
export interface IssueReason {
  /** Of this library: `utf8`, `json`, `twice`, `duplicate`, `reference`, `missing`, `value`; formats have others. */
  readonly name: string;
  /** Where in the text, from 1. */
  readonly line?: number;
  readonly column?: number;
  /** What the grammar wants there. */
  readonly wanted?: SyntaxWanted;
}

/** What the grammar of JSON wants in a place. */
export type SyntaxWanted =
  | 'value'
  | 'end'
  | 'name'
  | 'colon'
  | 'commaOrBrace'
  | 'commaOrBracket'
  | 'quote'
  | 'escape';

/** What came, so far as it may be repeated. */
export interface Came {
  readonly kind: 'nothing' | 'null' | 'text' | 'number' | 'bool' | 'array' | 'object' | 'other';
  /** Of a text, a number or a truth: the value as JSON has it, cut short. */
  readonly text: string;
}

/** An issue before it has its words: everything that is needed to find some, in any language. */
export interface BareIssue {
  /** Where: a JSON Pointer (RFC 6901), such as `/operator/id`; empty for the whole body. */
  readonly pointer: string;
  readonly code: IssueCode;
  /** What is wanted there; null where the code and the reason say it all. */
  readonly wanted: Wanted | null;
  readonly limits: IssueLimits;
  /** The names of members that are nearly like the one that came. */
  readonly near: readonly string[];
  readonly reason: IssueReason | null;
  /** What came; null where it is not about one value. */
  readonly came: Came | null;
}

/** One thing that is wrong with a body, for whoever sent it. What there is nothing of is left out. */
export interface Issue {
  readonly pointer: string;
  readonly code: IssueCode;
  readonly message: string;
  readonly wanted?: Wanted;
  readonly limits?: IssueLimits;
  readonly near?: readonly string[];
  readonly reason?: IssueReason;
  /** Of a body that is read line by line: which line, from 1. */
  readonly line?: number;
}

/** Puts an issue into words. */
export type SayIssue = (issue: BareIssue) => string;

/** An issue without anything that is not said. */
export const bareIssue = (
  pointer: string,
  code: IssueCode,
  rest: Partial<Omit<BareIssue, 'pointer' | 'code'>> = {},
): BareIssue => ({ pointer, code, wanted: null, limits: {}, near: [], reason: null, came: null, ...rest });

/** An issue with its words. */
export const spoken = (issue: BareIssue, say: SayIssue): Issue => {
  const { pointer, code, wanted, limits, near, reason } = issue;
  return freeze({
    pointer: cut(pointer, LONGEST_POINTER),
    code,
    message: say(issue),
    ...(wanted === null ? {} : { wanted }),
    ...(Object.keys(limits).length === 0 ? {} : { limits }),
    ...(near.length === 0 ? {} : { near }),
    ...(reason === null ? {} : { reason }),
  });
};

/**
 * A part of a JSON Pointer, escaped (RFC 6901, section 3).
 *
 * @param name a member's name, or an index
 * @example
 * pointerPart('a/b~c') // => /a~1b~0c
 */
export const pointerPart = (name: string | number): string =>
  `/${String(name).replaceAll('~', '~0').replaceAll('/', '~1')}`;

const LONGEST = 40;

const cut = (text: string, longest = LONGEST): string =>
  text.length > longest ? `${text.slice(0, longest)}…` : text;

/** No pointer to a member that is there is longer; one to what a caller made up is cut. */
const LONGEST_POINTER = 1000;

/** What came, as data. */
export const cameOf = (value: unknown): Came => {
  if (value === undefined) return { kind: 'nothing', text: '' };
  if (value === null) return { kind: 'null', text: '' };
  if (Array.isArray(value)) return { kind: 'array', text: '' };
  if (value instanceof ExactNumber) return { kind: 'number', text: cut(value.text) };
  switch (typeof value) {
    case 'string':
      // Only as much of it is escaped as is shown.
      return { kind: 'text', text: cut(JSON.stringify(cut(value, LONGEST + 1))) };
    case 'number':
      return { kind: 'number', text: Object.is(value, -0) ? '-0' : String(value) };
    case 'bigint':
      return { kind: 'number', text: cut(String(value)) };
    case 'boolean':
      return { kind: 'bool', text: String(value) };
    case 'object':
      return { kind: value instanceof Date || value instanceof Uint8Array ? 'other' : 'object', text: '' };
    default:
      return { kind: 'other', text: '' };
  }
};
