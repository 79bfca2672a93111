import { type BareIssue, type IssueReason, type SayIssue, sayIssue } from 'gribo';

/** Why a body is none of its format, in English; `wanted` of the library's own reasons is the library's to say. */
const WORDS: Readonly<Record<string, (reason: IssueReason) => string>> = {
  keys: () => 'The keys of a map must be text.',
  cbor: () => 'The body is no CBOR that stands for JSON, or too deep.',
  list: () => 'Expected a list of rows.',
  long: () => 'A row is too long.',
  cells: ({ line }) => `Line ${line} has more or fewer cells than the first line.`,
  csv: ({ line }) => `The body is no CSV: line ${line} or one below it.`,
  escape: () => 'The form has an escape that is none.',
  field: () => 'The field must be JSON text.',
  tag: () => 'The body has a tag that is too long.',
  element: () => 'The body has an element twice.',
  doctype: () => 'A body must have no document type.',
  xml: ({ line }) => `The body is no well-formed XML: line ${line}.`,
};

/** The words for issues of all formats: those of the library, and these. A format of one's own says its own. */
export const sayReason: SayIssue = (issue: BareIssue): string => {
  const { reason } = issue;
  if (reason === null || issue.code !== 'syntax') return sayIssue(issue);
  return WORDS[reason.name]?.(reason) ?? sayIssue(issue);
};
