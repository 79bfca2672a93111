import { Problem } from '../problems/problem.js';

/** The entity tags of a header (RFC 9110, section 8.8.3), or `*` for whatever there is. */
const tagsOf = (header: string): readonly string[] =>
  header.trim() === '*' ? ['*'] : (header.match(/(?:W\/)?"[^"]*"/g) ?? []);

/** Weak comparison: what the tags say, weak or not (RFC 9110, section 8.8.3.2). */
const opaque = (tag: string): string => tag.replace(/^W\//, '');

/**
 * Whether `If-None-Match` names one of these tags, or any at all (RFC 9110, section 13.1.2): a reader has that
 * already, a change is not wanted then.
 *
 * @param current makes the tags of what is there now; called where it matters only
 */
export const namesOne = (ifNoneMatch: string, current: () => readonly string[]): boolean => {
  const known = tagsOf(ifNoneMatch);
  if (known.includes('*')) return true;
  const tags = current().map(opaque);
  return known.some((tag) => tags.includes(opaque(tag)));
};

/**
 * Holds a change to the representation that its caller knows (RFC 9110, section 13.1.1).
 *
 * @param current makes the tags of what is stored now, in each format; called where it matters only
 * @param weakened `refuse`: strong comparison (section 8.8.3.2), so that a tag that a proxy weakened never matches;
 * `match`: it is taken for what it was before
 * @throws {Problem} 412 where another one is stored by now
 */
export const checkUnchanged = (
  ifMatch: string,
  current: () => readonly string[],
  weakened: 'refuse' | 'match',
): void => {
  // A weak tag is none of the strong ones that are compared with, so it never matches, as it must not.
  const known = weakened === 'match' ? tagsOf(ifMatch).map(opaque) : tagsOf(ifMatch);
  if (known.includes('*')) return;
  const tags = current();
  if (known.some((tag) => tags.includes(tag))) return;
  throw new Problem(412, { detail: 'It was changed since it was read. Read it again, then change it.' });
};
