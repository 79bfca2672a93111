import { parse } from 'content-type';
import {
  type BareIssue,
  type BodyLimits,
  type Issue,
  type Reader,
  type ReadResult,
  reader,
  type SayIssue,
} from 'gribo';
import { bareIssue, type InputPlan, spoken } from 'gribo/kit';
import { type Format, MalformedBody } from '../formats/format.js';
import { gathered } from '../formats/gathered.js';
import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';
import type { Settings } from '../settings/settings.js';
import { chunksOf } from './chunks-of.js';

/** Whether a format reads what is taken: one row, or a list. */
const reads = (format: Format, takesMany: boolean): boolean =>
  (takesMany ? format.readRows : format.read) !== undefined;

/** The media types of bodies that are read: of one row, or of lists. */
export const readableTypes = (formats: readonly Format[], takesMany: boolean): string[] =>
  formats.flatMap((format) =>
    reads(format, takesMany) ? [...format.mediaTypes, ...(takesMany ? [] : (format.alsoReads ?? []))] : [],
  );

/** Whether a media type is one of a format's, or one that it reads too. */
const isOf = ({ mediaTypes, alsoReads = [] }: Format, type: string, takesMany: boolean): boolean =>
  mediaTypes.includes(type) || (!takesMany && alsoReads.includes(type));

const unsupported = (
  detail: string,
  formats: readonly Format[],
  method: string,
  takesMany: boolean,
): Problem => {
  const types = readableTypes(formats, takesMany).join(', ');
  // RFC 5789, section 3.1, for PATCH; RFC 9110, section 15.5.16, for the others.
  const header = method === 'PATCH' ? 'accept-patch' : 'accept';
  return new Problem(415, { detail: `${detail} There are: ${types}.`, headers: { [header]: types } });
};

const parsedType = (text: string): { readonly type: string; readonly charset: string | undefined } | null => {
  try {
    const { type, parameters } = parse(text);
    return { type: type.toLowerCase(), charset: parameters['charset']?.toLowerCase() };
  } catch {
    return null;
  }
};

/** A body is taken whole, and as it is. @throws {Problem} 400, 415 */
export const checkWhole = (asked: Asked): void => {
  const encoding = asked.header('content-encoding')?.toLowerCase() ?? 'identity';
  if (encoding !== 'identity') {
    throw new Problem(415, {
      detail: 'A body must be sent without content encoding.',
      headers: { 'accept-encoding': 'identity' },
    });
  }
  // A part of a body is not to be taken for the whole (RFC 9110, section 14.4).
  if (asked.header('content-range') !== null)
    throw new Problem(400, {
      detail: 'A part of a body is not taken: send the whole, without Content-Range.',
    });
};

/**
 * The format of a request's body, by its `Content-Type`.
 *
 * @throws {Problem} 415 where the type, the charset or the encoding is not taken
 */
export const sentFormat = (asked: Asked, formats: readonly Format[], takesMany: boolean): Format => {
  const { method } = asked;
  checkWhole(asked);
  const said = asked.header('content-type');
  if (said === null) throw unsupported('The body has no Content-Type.', formats, method, takesMany);
  const parsed = parsedType(said);
  const format = formats.find(
    (one) => parsed !== null && reads(one, takesMany) && isOf(one, parsed.type, takesMany),
  );
  if (format === undefined)
    throw unsupported('Bodies of this Content-Type are not read.', formats, method, takesMany);
  if (parsed?.charset !== undefined && !['utf-8', 'utf8', 'us-ascii'].includes(parsed.charset)) {
    throw unsupported('A body must be UTF-8.', formats, method, takesMany);
  }
  return format;
};

/** The format that a request's body says it is in, to answer in the same; null where it is none of these. */
export const mirroredFormat = (asked: Asked, formats: readonly Format[]): Format | null => {
  const parsed = parsedType(asked.header('content-type') ?? '');
  return formats.find(({ mediaTypes }) => parsed !== null && mediaTypes.includes(parsed.type)) ?? null;
};

/** The issue for a body that a format could not read, or would not: it is too large or too deep. */
export const issueOf = ({ path, reason }: MalformedBody, { items, depth }: BodyLimits): BareIssue => {
  if (reason.name === 'items') return bareIssue(path, 'limit', { limits: { items } });
  if (reason.name === 'levels') return bareIssue(path, 'limit', { limits: { depth } });
  return bareIssue(path, 'syntax', { reason });
};

const asResult = async (
  read: () => ReadResult<object> | Promise<ReadResult<object>>,
  limits: BodyLimits,
  say: SayIssue,
): Promise<ReadResult<object>> => {
  try {
    return await read();
  } catch (error) {
    if (!(error instanceof MalformedBody)) throw error;
    return { ok: false, issues: [spoken(issueOf(error, limits), say)] };
  }
};

/** The problem for a body that cannot be stored: 413 where it is too large or too deep, 400 where it is not to be read, else 422. */
export const refused = (issues: readonly Issue[]): Problem => {
  const [first] = issues;
  if (first?.code === 'limit' && issues.length === 1) {
    return new Problem(413, { detail: first.message, errors: issues });
  }
  const isUnread = issues.some(({ code }) => code === 'syntax');
  return new Problem(isUnread ? 400 : 422, {
    detail: isUnread ? 'The body cannot be read.' : 'The body has members that are wrong.',
    errors: issues,
  });
};

/** The reader of an input for bodies of a format. */
export const readerFor = (plan: InputPlan, format: Format, settings: Settings): Reader<object> =>
  reader(
    { plan },
    {
      ...settings.policies,
      say: settings.say,
      bytes: settings.limits.body,
      text: format.hasOnlyText === true ? 'lax' : 'exact',
    },
  );

/**
 * Reads a request's body by an input.
 *
 * @returns the change, under the entity's own names
 * @throws {Problem} 400, 408, 413, 415 or 422
 */
export const readBody = async (asked: Asked, plan: InputPlan, settings: Settings): Promise<object> => {
  const format = sentFormat(asked, settings.formats, false);
  const { body: most, receiving } = settings.limits;
  const body = await gathered(chunksOf(asked, { most, receiving, each: null }));
  const { say } = settings;
  const reading = readerFor(plan, format, settings);
  const read = () => format.read?.(body, reading) ?? { ok: false, issues: [] };
  const got = await asResult(read, reading.limits, say);
  if (got.ok) return got.value;
  throw refused(got.issues);
};
