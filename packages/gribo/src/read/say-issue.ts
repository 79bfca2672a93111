import type { Came, IssueLimits, IssueReason, SayIssue, SyntaxWanted, Wanted } from './issue.js';
import { wordsOfKind } from './kinds.js';

const thing = (wanted: Wanted, limits: IssueLimits): string => {
  if (wanted === 'object') return 'an object';
  return wordsOfKind(wanted, limits);
};

/**
 * What is wanted in a place, in English.
 *
 * @param wanted a kind of value, `object` or `array`
 * @param limits its limits
 * @example
 * sayWanted('integer', { min: 1850 }) // => a whole number of 1850 or more
 */
export const sayWanted = (wanted: Wanted, limits: IssueLimits = {}): string => thing(wanted, limits);

const CAME: { readonly [K in Came['kind']]: (text: string) => string } = {
  nothing: () => 'nothing',
  null: () => 'null',
  text: (text) => text,
  number: (text) => text,
  bool: (text) => text,
  array: () => 'an array',
  object: () => 'an object',
  other: () => 'something else',
};

const SYNTAX: { readonly [W in SyntaxWanted]: string } = {
  value: 'a value',
  end: 'the end of the text',
  name: 'a member name in quotes',
  colon: '":"',
  commaOrBrace: '"," or "}"',
  commaOrBracket: '"," or "]"',
  quote: 'the end of a string, without control characters',
  escape: 'an escape such as \\n or \\u00e9',
};

const notJson = ({ wanted, line, column }: IssueReason): string =>
  `The text is no JSON: expected ${wanted === undefined ? 'something else' : SYNTAX[wanted]} at line ${line}, column ${column}.`;

/** Why a body is not read, or a change not stored. */
const REASONS: Readonly<Record<string, (reason: IssueReason) => string>> = {
  utf8: () => 'The bytes are no UTF-8 text.',
  json: notJson,
  twice: () => 'The member is there twice.',
  duplicate: () => 'Another one has this value already.',
  reference: () => 'This names something that is not there.',
  missing: () => 'This always has a value.',
  value: () => 'This value is not taken.',
};

const limitWords = ({ bytes, depth, items, rows, issues }: IssueLimits): string => {
  if (bytes !== undefined) return `A body may have at most ${bytes} bytes.`;
  if (items !== undefined) return `A body may have at most ${items} members and items.`;
  if (rows !== undefined) return `A body may have at most ${rows} rows inside others.`;
  if (issues !== undefined) return `There are more than ${issues} issues.`;
  return `A body may be at most ${depth} levels deep.`;
};

const reasonWords = (reason: IssueReason | null): string =>
  (reason === null ? undefined : REASONS[reason.name]?.(reason)) ?? 'It cannot be read.';

/**
 * The words for an issue, in English: what `say` does where nothing else is said.
 *
 * @example
 * reader(NewVessel, { say: (issue) => `${issue.pointer}: ${sayIssue(issue)}` })
 */
export const sayIssue: SayIssue = ({ code, wanted, limits, near, reason, came }) => {
  const wish = wanted === null ? 'something else' : sayWanted(wanted, limits);
  switch (code) {
    case 'required':
      return `This member is required: ${wish}.`;
    case 'unknown':
      return `There is no such member.${near.length === 0 ? '' : ` Did you mean ${near.map((name) => `"${name}"`).join(' or ')}?`}`;
    case 'null':
      return 'This must not be null: it always has a value.';
    case 'fixed':
      return `This is set once, when the ${limits.entity} is created.`;
    case 'limit':
      return wanted === 'json' ? `Expected ${wish}.` : limitWords(limits);
    case 'syntax':
    case 'conflict':
      return reasonWords(reason);
    case 'type':
    case 'range':
    case 'length':
    case 'pattern':
    case 'choice':
    case 'format':
      return `Expected ${wish}, got ${came === null ? 'nothing' : CAME[came.kind](came.text)}.`;
    default:
      return code satisfies never;
  }
};
