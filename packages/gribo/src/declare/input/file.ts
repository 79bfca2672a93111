import { freeze } from '../../util/freeze.js';
import type { FileTaken } from '../types/file-types.js';

export interface FileOptions {
  /** The media types that it may be of, such as `image/png`. Left out: any. */
  readonly types?: readonly string[];
  /** The most bytes that it may have. Default: 1,048,576. */
  readonly max?: number;
  /** Whether it may be left out. Default: false. */
  readonly optional?: boolean;
  /** What it is, in a sentence for descriptions. */
  readonly about?: string;
}

const MEGABYTE = 1_048_576;

/**
 * Declares a file that an endpoint takes, in its option `files`.
 *
 * @param options `types`: the media types that it may be of; `max`: the most bytes; `optional`; `about`
 * @example
 * endpoint('PUT /vessels/{id}/photo', { from: db.vessel, files: { photo: file({ types: ['image/png'], max: 5_000_000 }) } })
 */
export const file = <const O extends FileOptions>(
  options?: O,
): FileTaken<O extends { readonly optional: true } ? true : false> => {
  const { types, max = MEGABYTE, optional = false, about }: FileOptions = options ?? {};
  const kinds = types === undefined ? null : freeze([...types]);
  return freeze({ file: freeze({ types: kinds, max, optional, about: about ?? null }) });
};
