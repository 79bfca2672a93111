import Negotiator from 'negotiator';
import type { Format } from '../formats/format.js';
import { Problem } from '../problems/problem.js';
import type { Settings } from '../settings/settings.js';

/** What a response can be sent as. */
export interface Choice {
  readonly format: Format;
  /** The media type as it goes into `Content-Type`. */
  readonly contentType: string;
}

/** What a request says about the format of its response. */
export interface Wish {
  readonly accept: string | null;
  /** The value of `?format=`, where that is switched on. */
  readonly format: string | null;
  /** The format of the request's own body. */
  readonly sent: Format | null;
}

/** The formats that a response can be sent in: lists in all that write, single rows not in those for lists. */
export const writableFormats = (formats: readonly Format[], isList: boolean): readonly Format[] =>
  formats.filter((format) => format.write !== undefined && (isList || format.onlyLists !== true));

const choiceOf = (format: Format, mediaType: string): Choice => ({
  format,
  contentType: format.isText === true ? `${mediaType}; charset=utf-8` : mediaType,
});

const listOf = (formats: readonly Format[]): string =>
  formats.map(({ name, mediaTypes }) => `${mediaTypes[0]} (${name})`).join(', ');

const unacceptable = (formats: readonly Format[]): Problem =>
  new Problem(406, { detail: `There is no such format here. There are: ${listOf(formats)}.` });

const first = (formats: readonly Format[]): Choice | null => {
  const [format] = formats;
  return format === undefined ? null : choiceOf(format, format.mediaTypes[0] ?? format.name);
};

/** All that is sent is UTF-8, so each media type is also there with that charset. */
const offersOf = (formats: readonly Format[]): ReadonlyMap<string, Choice> =>
  new Map(
    formats.flatMap((format) =>
      format.mediaTypes.flatMap((type) => [
        [type, choiceOf(format, type)] as const,
        [`${type};charset=utf-8`, choiceOf(format, type)] as const,
      ]),
    ),
  );

/** Chooses by `Accept`, with its quality values, wildcards and parameters (RFC 9110, section 12.5.1). */
const accepted = (accept: string, formats: readonly Format[]): Choice | null => {
  const offers = offersOf(formats);
  const [preferred] = new Negotiator({ headers: { accept } }).mediaTypes([...offers.keys()]);
  return preferred === undefined ? null : (offers.get(preferred) ?? null);
};

/**
 * Chooses the format of a response.
 *
 * @param formats those that it can be sent in, the preferred one first
 * @throws {Problem} 406 where none is acceptable and the settings refuse then
 */
export const negotiate = (
  wish: Wish,
  formats: readonly Format[],
  settings: Pick<Settings, 'unacceptable'>,
): Choice => {
  if (wish.format !== null) {
    const named = formats.find(({ name }) => name === wish.format);
    const chosen = named === undefined ? null : first([named]);
    if (chosen === null) throw unacceptable(formats);
    return chosen;
  }
  const found = wish.accept === null ? first(formats) : accepted(wish.accept, formats);
  if (found !== null) return found;
  const mirrored = wish.sent !== null && formats.includes(wish.sent) ? first([wish.sent]) : null;
  if (settings.unacceptable === 'mirror' && mirrored !== null) return mirrored;
  const preferred = settings.unacceptable === 'first' ? first(formats) : null;
  if (preferred === null) throw unacceptable(formats);
  return preferred;
};
