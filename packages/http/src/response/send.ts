import { type GivenFacts, GriboError, type Situation } from 'gribo';
import { audiencesOf, type BodyPlan, type EndpointPlan, isAboutMany } from 'gribo/kit';
import type { Content, Format } from '../formats/format.js';
import type { Answer } from '../message/answer.js';
import { type Asked, isReading } from '../message/asked.js';
import { loggable } from '../problems/loggable.js';
import { Problem } from '../problems/problem.js';
import type { Choice } from '../request/negotiate.js';
import { checkUnchanged, namesOne } from '../request/preconditions.js';
import type { Settings } from '../settings/settings.js';
import { entityTag } from './entity-tag.js';
import { noticeHeaders } from './links.js';
import { sending, streamSending } from './outgoing-body.js';
import { type ShortOrLong, shortList } from './short-list.js';
import { streamOf, watched } from './stream-body.js';

/** Is told of a list that is sent while it is made. */
export interface Streaming {
  /** It has ended, whole or not. @param rows how many were sent, where that is known */
  ended(rows: number | null): void;
}

/** A response about to be sent. */
export interface Outgoing {
  readonly asked: Asked;
  readonly endpoint: EndpointPlan;
  readonly situation: Situation;
  /** The facts about the caller that members and conditions use. */
  readonly given: GivenFacts;
  readonly settings: Settings;
  readonly choice: Choice;
  readonly status: number;
  /** What the body is written from. */
  readonly data: unknown;
  readonly links: readonly string[];
  readonly headers: Readonly<Record<string, string>>;
  /** Seconds that the response may be kept; null: it is asked again each time. */
  readonly cache: number | null;
  /** The request's headers that its audience follows from; null where nothing was decided. */
  readonly decidedBy: readonly string[] | null;
  readonly streaming: Streaming | null;
}

/** What decides who may keep a response. */
type Kept = Pick<Outgoing, 'endpoint' | 'decidedBy' | 'cache'>;

/** Whether the response depends on who asks: then no shared cache may keep it. */
const isPersonal = ({ endpoint: { audiences, returns }, decidedBy }: Kept): boolean =>
  decidedBy !== null || audiences !== null || (returns !== null && audiencesOf(returns).length > 0);

/** Who may keep a response, and for how long (RFC 9111, section 5.2). */
export const cacheControl = (outgoing: Kept): string => {
  const { cache: seconds } = outgoing;
  if (isPersonal(outgoing)) return seconds === null ? 'private, no-cache' : `private, max-age=${seconds}`;
  return seconds === null ? 'no-cache' : `public, max-age=${seconds}`;
};

const headersOf = (outgoing: Outgoing): Record<string, string> => {
  const { endpoint, choice, links, headers, asked, decidedBy } = outgoing;
  const notice = noticeHeaders(endpoint.deprecated);
  const allLinks = [...links, ...notice.links];
  const made: Record<string, string> = {
    'content-type': choice.contentType,
    'cache-control': isReading(asked) ? cacheControl(outgoing) : 'no-store',
    // One cache may hold what several callers were sent: what tells them apart is named.
    vary: ['Accept', ...(decidedBy ?? [])].join(', '),
    'x-content-type-options': 'nosniff',
    ...notice.headers,
    ...headers,
  };
  if (allLinks.length > 0) made['link'] = allLinks.join(', ');
  return made;
};

/** A response that is sent as a whole: with its entity tag, or 304 where its caller has it already. */
const whole = (outgoing: Outgoing, content: Content): Answer => {
  const { asked, status } = outgoing;
  const headers = headersOf(outgoing);
  const isHead = asked.method === 'HEAD';
  if (isReading(asked) && status === 200) {
    const tag = entityTag(content);
    headers['etag'] = tag;
    const ifMatch = asked.header('if-match');
    if (ifMatch !== null) checkUnchanged(ifMatch, () => [tag], outgoing.settings.weakenedTags);
    const ifNoneMatch = asked.header('if-none-match');
    if (ifNoneMatch !== null && namesOne(ifNoneMatch, () => [tag])) {
      const { 'content-type': _type, ...kept } = headers;
      return { status: 304, headers: kept, content: null };
    }
  }
  if (isHead) headers['content-length'] = String(Buffer.byteLength(content));
  return { status, headers, content: isHead ? null : content };
};

type LongList = Extract<ShortOrLong, { kind: 'source' }>;

const streamed = (
  outgoing: Outgoing,
  returns: BodyPlan,
  stream: NonNullable<Format['stream']>,
  { rows, watch }: LongList,
): Answer => {
  const { endpoint, situation, given, asked, settings } = outgoing;
  const headers = headersOf(outgoing);
  if (asked.method === 'HEAD') {
    watch.end();
    return { status: 200, headers, content: null };
  }
  const source = stream(streamSending(returns, situation, given, rows));
  const body = source instanceof ReadableStream ? source : streamOf(source);
  const failed = (error: unknown): void =>
    settings.log.error(
      { err: loggable(error), endpoint: endpoint.name },
      'a list failed midway; the connection was broken',
    );
  const { sending } = settings.limits;
  const ended = (): void => outgoing.streaming?.ended(watch.count);
  return { status: 200, headers, content: watched(body, { rows: watch, sending, failed, ended }) };
};

/** Rows of a list that cannot be streamed are gathered, up to the limit. */
const gathered = async ({ settings, choice }: Outgoing, { rows }: LongList): Promise<readonly object[]> => {
  const all: object[] = [];
  for await (const row of rows) {
    if (all.push(row) > settings.limits.rows) {
      throw new Problem(406, {
        detail: `The list is too long for ${choice.format.name}: ask for another format.`,
      });
    }
  }
  return all;
};

/** The response of an endpoint that returns a body. */
export const send = async (outgoing: Outgoing): Promise<Answer> => {
  const { endpoint, situation, given, choice, data, settings } = outgoing;
  const { returns } = endpoint;
  const { write, stream } = choice.format;
  if (returns === null || write === undefined)
    throw new GriboError('MISUSE', endpoint.name, `${endpoint.name} has nothing to send`);
  if (returns.kind !== 'list') return whole(outgoing, write(sending(returns, situation, given, data)));
  const looked = await shortList(data as Iterable<object> | AsyncIterable<object>, settings.limits.answering);
  if (looked.kind === 'source' && stream !== undefined) return streamed(outgoing, returns, stream, looked);
  const rows = looked.kind === 'whole' ? looked.rows : await looked.watch.inTime(gathered(outgoing, looked));
  return whole(outgoing, write(sending(returns, situation, given, rows)));
};

/** Whether an endpoint's body is a list, for the formats that can hold lists only. */
export const sendsList = ({ returns }: EndpointPlan): boolean => returns !== null && isAboutMany(returns);
