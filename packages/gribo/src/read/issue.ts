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

/** One thing that is wrong with a body, for whoever sent it. */
export interface Issue {
  /** Where: a JSON Pointer (RFC 6901), such as `/operator/id`; empty for the whole body. */
  readonly pointer: string;
  readonly code: IssueCode;
  /** What was expected there, in a few words. */
  readonly expected: string;
  readonly message: string;
}

/** An issue before it has its words. */
export type BareIssue = Omit<Issue, 'message'> & { readonly came: string };

/** Puts an issue into words. */
export type SayIssue = (issue: BareIssue) => string;

/**
 * A part of a JSON Pointer, escaped (RFC 6901, section 3).
 *
 * @param name a member's name, or an index
 * @example
 * pointerPart('a/b~c') // => /a~1b~0c
 */
export const pointerPart = (name: string | number): string =>
  `/${String(name).replaceAll('~', '~0').replaceAll('/', '~1')}`;

/** The words for an issue, in English. */
export const sayIssue: SayIssue = ({ code, expected, came }) => {
  switch (code) {
    case 'required':
      return `This member is required: ${expected}.`;
    case 'unknown':
      return `There is no such member.${expected === '' ? '' : ` Did you mean ${expected}?`}`;
    case 'null':
      return `This must not be null: ${expected}.`;
    case 'fixed':
      return `This ${expected}.`;
    case 'limit':
    case 'syntax':
    case 'conflict':
      return `${expected}.`;
    case 'type':
    case 'range':
    case 'length':
    case 'pattern':
    case 'choice':
    case 'format':
      return `Expected ${expected}, got ${came}.`;
    default:
      return code satisfies never;
  }
};
