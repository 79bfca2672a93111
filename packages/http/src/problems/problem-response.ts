import { MOST_ISSUES } from 'gribo/kit';
import Negotiator from 'negotiator';
import { content, hasNulls, NULLABLE, xmlDocument } from '../formats/write-xml.js';
import type { Answer } from '../message/answer.js';
import type { Problem } from './problem.js';

const JSON_TYPE = 'application/problem+json';
const XML_TYPE = 'application/problem+xml';

/** A problem in JSON unless XML is preferred; also where neither is acceptable, for a problem must be told. */
const wantsXml = (accept: string | null): boolean => {
  if (accept === null) return false;
  const offered = [JSON_TYPE, 'application/json', XML_TYPE, 'application/xml', 'text/xml'];
  const [preferred] = new Negotiator({ headers: { accept } }).mediaTypes(offered);
  return preferred?.endsWith('xml') === true;
};

/** The most errors that are told, with one that says that there are more, and the most characters of all of them. */
const MOST = { errors: MOST_ISSUES + 1, characters: 65_536 };

/** As many errors as fit: what sent them is not sent back many times its size. */
const bounded = (errors: Problem['errors']): Problem['errors'] => {
  let left = MOST.characters;
  const told = errors.slice(0, MOST.errors);
  const end = told.findIndex((error) => {
    left -= JSON.stringify(error).length;
    return left < 0;
  });
  return end === -1 ? told : told.slice(0, Math.max(1, end));
};

/** What else there is never stands in the place of these. */
const STANDARD = ['type', 'title', 'status', 'code', 'detail', 'instance', 'errors'];

/** The members of a problem (RFC 9457, section 3.1), and `errors` where there are several things to tell. */
const membersOf = (problem: Problem, instance: string | null): Record<string, unknown> => ({
  type: problem.type ?? 'about:blank',
  title: problem.title,
  status: problem.status,
  ...(problem.problemCode === null ? {} : { code: problem.problemCode }),
  ...(problem.detail === null ? {} : { detail: problem.detail }),
  ...(instance === null ? {} : { instance }),
  ...(problem.errors.length === 0 ? {} : { errors: bounded(problem.errors) }),
  ...Object.fromEntries(Object.entries(problem.members).filter(([name]) => !STANDARD.includes(name))),
});

/** Arrays are elements `i` (RFC 9457, appendix B). */
const xmlOf = (members: Record<string, unknown>): string => {
  const inside = content(members, 'i');
  return xmlDocument('problem', ` xmlns="urn:ietf:rfc:7807"${hasNulls(inside) ? NULLABLE : ''}`, inside);
};

/**
 * The response for a problem.
 *
 * @param accept the request's `Accept` header: XML where it prefers that to JSON
 * @param instance a URI for this very occurrence, which the log has too; null where it is not logged
 */
export const problemResponse = (problem: Problem, accept: string | null, instance: string | null): Answer => {
  const members = membersOf(problem, instance);
  const isXml = wantsXml(accept);
  return {
    status: problem.status,
    content: isXml ? xmlOf(members) : JSON.stringify(members),
    headers: {
      'content-type': isXml ? XML_TYPE : JSON_TYPE,
      'cache-control': 'no-store',
      vary: 'Accept',
      'x-content-type-options': 'nosniff',
      ...problem.headers,
    },
  };
};
