import type { DeprecationNotice, EditionPlan } from 'gribo/kit';
import type { Answer } from '../message/answer.js';
import { noticeHeaders } from '../response/links.js';
import type { EditionsSettings } from './editions-options.js';

/** What is told of the edition that a request was answered in. */
export interface Told {
  readonly edition: EditionPlan;
  readonly settings: EditionsSettings;
  /** What the endpoint says that it will go; null: nothing. */
  readonly notice: DeprecationNotice | null;
  /** Where the same is in the next edition and in the newest; null where it is nowhere, or at the very same place. */
  readonly successor: string | null;
  readonly latest: string | null;
}

const earlier = (one: string | null, other: string | null): string | null => {
  if (one === null || other === null) return one ?? other;
  return one < other ? one : other;
};

/** Links to the same in later editions (RFC 5829). */
const linksOf = ({ successor, latest }: Told): readonly string[] => {
  if (successor !== null && successor === latest)
    return [`<${successor}>; rel="successor-version latest-version"`];
  return [
    ...(successor === null ? [] : [`<${successor}>; rel="successor-version"`]),
    ...(latest === null ? [] : [`<${latest}>; rel="latest-version"`]),
  ];
};

const joined = (...some: readonly (string | undefined)[]): string =>
  some.filter((one) => one !== undefined && one !== '').join(', ');

const added = (header: string | undefined, name: string): string =>
  (header ?? '').split(', ').includes(name) ? (header ?? '') : joined(header, name);

/** The answer, with the header that the place where editions are named is in: it decided what is answered. */
export const decidedByEdition = (answer: Answer, { by, name }: EditionsSettings): Answer => {
  if (by === 'path') return answer;
  const vary = added(answer.headers['vary'], by === 'header' ? name : 'Accept');
  return { ...answer, headers: { ...answer.headers, vary } };
};

/** What says, where editions are named, which it was. */
const nameHeaders = (type: string | undefined, { edition, settings }: Told): Record<string, string> => {
  const { by, name } = settings;
  if (by === 'header') return { [name.toLowerCase()]: edition.name };
  return by === 'path' || type === undefined ? {} : { 'content-type': `${type}; ${name}=${edition.name}` };
};

/** The answer with what it tells of its edition: which it is, until when it is there (RFC 9745, RFC 8594), and what follows. */
export const withEdition = (answer: Answer, told: Told): Answer => {
  const { edition, notice } = told;
  const of = edition.deprecated;
  const dates = noticeHeaders({
    since: earlier(of?.since ?? null, notice?.since ?? null),
    sunset: earlier(of?.sunset ?? null, notice?.sunset ?? null),
    instead: null,
  });
  const decided = decidedByEdition(answer, told.settings);
  const headers: Record<string, string> = {
    ...decided.headers,
    ...nameHeaders(decided.headers['content-type'], told),
    ...dates.headers,
  };
  const link = joined(headers['link'], ...linksOf(told));
  if (link !== '') headers['link'] = link;
  return { ...answer, headers };
};
