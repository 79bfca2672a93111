import type { Finding } from '../../errors/declaration-error.js';
import type { FilePlan } from '../../plan/api-plan.js';
import { freeze } from '../../util/freeze.js';
import type { FileTaken } from '../types/file-types.js';

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
