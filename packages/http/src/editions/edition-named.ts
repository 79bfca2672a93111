import { parse } from 'content-type';
import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';
import type { EditionsSettings } from './editions-options.js';

/** What a request says of the edition that it is asked in. */
export interface EditionNamed {
  /** Null: nothing. */
  readonly name: string | null;
  /** The path without the edition. */
  readonly path: string;
  /** The header `Accept` without it. */
  readonly accept: string | null;
}

/** One media type of a list, with its quality. */
interface Range {
  readonly text: string;
  readonly edition: string | null;
  readonly quality: number;
}

/** A parameter of a media type, with its name (RFC 9110, section 5.6.6). */
const PARAMETER = /;\s*([!#$%&'*+.^_`|~\w-]+)=("(?:[^"\\]|\\.)*"|[^\s;,"]*)/g;

const unquoted = (value: string): string =>
  value.startsWith('"') ? value.slice(1, -1).replaceAll(/\\(.)/g, '$1') : value;

const rangeOf = (text: string, parameter: string): Range => {
  let edition: string | null = null;
  let quality = 1;
  const rest = text.replaceAll(PARAMETER, (whole, name: string, value: string) => {
    // What is no number says as much as 0 (RFC 9110, section 12.4.2).
    if (name.toLowerCase() === 'q') quality = Number(value) || 0;
    if (name.toLowerCase() !== parameter) return whole;
    edition = unquoted(value);
    return '';
  });
  return { text: rest, edition, quality };
};

/** Commas within quotes part nothing. */
const ranges = (header: string, parameter: string): readonly Range[] =>
  (header.match(/(?:[^,"]|"(?:[^"\\]|\\.)*")+/g) ?? []).map((part) => rangeOf(part.trim(), parameter));

/** Of the editions that media types name, the one that is wanted most; null where none does. */
const wantedMost = (all: readonly Range[]): string | null =>
  all
    .filter(({ edition, quality }) => edition !== null && quality > 0)
    .sort((a, b) => b.quality - a.quality)[0]?.edition ?? null;

/** The edition that the media type of a body names; null where it names none, or is none: that is told where it is read. */
const sentIn = (contentType: string | null, parameter: string): string | null => {
  if (contentType === null) return null;
  try {
    return parse(contentType).parameters[parameter] ?? null;
  } catch {
    return null;
  }
};

const inMediaTypes = (asked: Asked, parameter: string): Omit<EditionNamed, 'path'> => {
  const accept = asked.header('accept');
  const accepted = ranges(accept ?? '', parameter);
  const sent = sentIn(asked.header('content-type'), parameter);
  const wanted = wantedMost(accepted);
  if (sent !== null && wanted !== null && sent !== wanted)
    throw new Problem(400, {
      detail: `What is sent is of the edition ${JSON.stringify(sent)}, and ${JSON.stringify(wanted)} is accepted: name one of them.`,
    });
  return {
    name: wanted ?? sent,
    // Whoever wants one edition first, and takes another for want of it, is answered in the first.
    accept: accept && accepted.map(({ text }) => text).join(', '),
  };
};

/**
 * The edition that a request names.
 *
 * @param path its path, without what all paths start with
 * @param names the editions that there are
 * @throws {Problem} 400 where it names two
 */
export const editionNamed = (
  asked: Asked,
  path: string,
  names: ReadonlySet<string>,
  { by, name }: EditionsSettings,
): EditionNamed => {
  const accept = asked.header('accept');
  switch (by) {
    case 'header':
      // Empty, it says as much as none.
      return { name: asked.header(name) || null, path, accept };
    case 'mediaType':
      return { ...inMediaTypes(asked, name.toLowerCase()), path };
    case 'path': {
      const end = path.indexOf('/', 1);
      const first = path.slice(1, end === -1 ? undefined : end);
      // Any other is the path of those who name none.
      if (!names.has(first)) return { name: null, path, accept };
      return { name: first, path: path.slice(first.length + 1) || '/', accept };
    }
    default:
      return by satisfies never;
  }
};
