import type { Finding } from '../../errors/declaration-error.js';
import type { FilePlan } from '../../plan/api-plan.js';
import { freeze } from '../../util/freeze.js';

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

/** A file that an endpoint takes, before the endpoint names it. */
export interface FileTaken<Optional extends boolean = boolean> {
  readonly file: Omit<FilePlan, 'name'>;
  /** Carries the type; there is nothing at run time. */
  readonly optional?: Optional;
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

const TYPE = /^[\w!#$&^.+-]+\/[\w!#$&^.+-]+$/;

/** What is wrong with the files of an endpoint. */
export const fileFindings = (
  route: string,
  files: Readonly<Record<string, FileTaken>>,
  taken: readonly string[],
): readonly Finding[] => {
  const method = route.split(' ')[0] ?? '';
  const found = Object.entries(files).flatMap(([name, given]): Finding[] => {
    const path = `${route} ${name}`;
    const plan = (given as Partial<FileTaken> | undefined)?.file;
    if (plan === undefined) return [{ path, message: 'expected file({ types, max })' }];
    const wrong = (plan.types ?? []).filter((type) => !TYPE.test(type));
    return [
      ...(Number.isInteger(plan.max) && plan.max > 0
        ? []
        : [{ path, message: 'its max is a number of bytes' }]),
      ...wrong.map((type) => ({
        path,
        message: `${JSON.stringify(type)} is no media type, such as image/png`,
      })),
      ...(taken.includes(name) ? [{ path, message: 'what it takes has a member of that name already' }] : []),
    ];
  });
  const isSafe = Object.keys(files).length > 0 && (method === 'GET' || method === 'DELETE');
  return isSafe
    ? [...found, { path: route, message: 'a request of that method has no body to hold a file' }]
    : found;
};

/** The files of an endpoint as data. */
export const filesOf = (files: Readonly<Record<string, FileTaken>>): readonly FilePlan[] =>
  freeze(Object.entries(files).map(([name, { file: plan }]) => freeze({ name, ...plan })));
