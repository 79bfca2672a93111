import { create as disposition } from 'content-disposition';
import { parse } from 'content-type';
import { type GivenFacts, GriboError, type Situation } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import parseRange from 'range-parser';
import type { Answer } from '../message/answer.js';
import { type Asked, isReading } from '../message/asked.js';
import { notFound } from '../problems/not-found.js';
import { Problem } from '../problems/problem.js';
import { checkUnchanged, namesOne } from '../request/preconditions.js';
import type { Settings } from '../settings/settings.js';
import { entityTag } from './entity-tag.js';
import { noticeHeaders } from './links.js';
import { looseWriter } from './outgoing-body.js';

/** A file about to be sent. */
export interface OutgoingFile {
  readonly asked: Asked;
  readonly endpoint: EndpointPlan;
  readonly situation: Situation;
  readonly given: GivenFacts;
  readonly settings: Settings;
  readonly data: unknown;
  readonly headers: Readonly<Record<string, string>>;
  readonly cacheControl: string;
  /** The request's headers that its audience follows from. */
  readonly decidedBy: readonly string[];
}

interface FileShown {
  readonly bytes: Uint8Array;
  readonly type: string;
  readonly name: string | null;
}

const UNKNOWN = 'application/octet-stream';

/** What browsers show without running anything in it; all else is kept, and not opened at the address of the API. */
const SHOWN =
  /^(?:image\/(?:png|jpeg|gif|webp|avif|bmp)|audio\/[\w.+-]+|video\/[\w.+-]+|application\/pdf|text\/plain)$/;

/** A media type as a header takes it: what is stored may be none. */
const typeOf = (stored: string | null | undefined): string => {
  if (stored === null || stored === undefined) return UNKNOWN;
  try {
    parse(stored);
    return /^[\x20-\x7e]+$/.test(stored) ? stored : UNKNOWN;
  } catch {
    return UNKNOWN;
  }
};

/** @throws {Problem} 404 where there are no bytes */
const shownOf = ({ endpoint, situation, given, data }: OutgoingFile): FileShown => {
  const { returns } = endpoint;
  if (returns === null) throw new GriboError('MISUSE', endpoint.name, `${endpoint.name} has nothing to send`);
  const made = looseWriter(returns, situation, given).object(data) as {
    readonly bytes?: string | null;
    readonly type?: string | null;
    readonly name?: string | null;
  };
  if (made.bytes === null || made.bytes === undefined) throw notFound();
  return { bytes: Buffer.from(made.bytes, 'base64'), type: typeOf(made.type), name: made.name ?? null };
};

const dispositionOf = ({ type, name }: FileShown): string => {
  const way = SHOWN.test(type.split(';')[0]?.trim().toLowerCase() ?? '') ? 'inline' : 'attachment';
  return name === null ? way : disposition(name, { type: way });
};

/** The part that is asked for: null where it is the whole. @throws {Problem} 416 */
const partOf = (
  asked: Asked,
  tag: string,
  size: number,
): { readonly start: number; readonly end: number } | null => {
  const range = asked.header('range');
  const ifRange = asked.header('if-range');
  // A part of another state than the one that is known is of no use (RFC 9110, section 13.1.5).
  if (range === null || (ifRange !== null && ifRange !== tag)) return null;
  const parts = parseRange(size, withinSize(range, size), { combine: true });
  if (parts === -1)
    throw new Problem(416, {
      title: 'Range Not Satisfiable',
      headers: { 'content-range': `bytes */${size}` },
    });
  // Several parts in one answer are not worth their form: the whole is right, too.
  return parts === -2 || parts.type !== 'bytes' || parts.length !== 1 ? null : (parts[0] ?? null);
};

/** The last so many bytes of fewer are all of them (RFC 9110, section 14.1.2). */
function withinSize(range: string, size: number): string {
  return range.replaceAll(/(?<=[=,]\s*)-(\d+)(?=\s*(?:,|$))/g, (said, last: string) =>
    Number(last) > size ? `-${size}` : said,
  );
}

/** The bytes of a column: whole, in part, or 304 where its caller has them already (RFC 9110, sections 13 and 14). */
export const sendFile = (outgoing: OutgoingFile): Answer => {
  const { asked, endpoint, settings, cacheControl, decidedBy } = outgoing;
  const shown = shownOf(outgoing);
  const { bytes, type } = shown;
  const tag = entityTag(bytes);
  const notice = noticeHeaders(endpoint.deprecated);
  const headers: Record<string, string> = {
    'cache-control': cacheControl,
    etag: tag,
    'accept-ranges': 'bytes',
    'x-content-type-options': 'nosniff',
    // What was uploaded runs nothing at the address of the API.
    'content-security-policy': "default-src 'none'; sandbox",
    ...(decidedBy.length === 0 ? {} : { vary: decidedBy.join(', ') }),
    ...notice.headers,
    ...(notice.links.length === 0 ? {} : { link: notice.links.join(', ') }),
    ...outgoing.headers,
  };
  const ifMatch = isReading(asked) ? asked.header('if-match') : null;
  if (ifMatch !== null) checkUnchanged(ifMatch, () => [tag], settings.weakenedTags);
  const ifNoneMatch = isReading(asked) ? asked.header('if-none-match') : null;
  if (ifNoneMatch !== null && namesOne(ifNoneMatch, () => [tag]))
    return { status: 304, headers, content: null };
  const part = asked.method === 'GET' ? partOf(asked, tag, bytes.length) : null;
  const content = part === null ? bytes : bytes.subarray(part.start, part.end + 1);
  Object.assign(headers, { 'content-type': type, 'content-disposition': dispositionOf(shown) });
  if (part !== null) headers['content-range'] = `bytes ${part.start}-${part.end}/${bytes.length}`;
  if (asked.method === 'HEAD')
    return { status: 200, headers: { ...headers, 'content-length': String(bytes.length) }, content: null };
  return { status: part === null ? 200 : 206, headers, content };
};
