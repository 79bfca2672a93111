import type { Finding } from '../../errors/declaration-error.js';
import type { ProblemPlan } from '../../plan/api-plan.js';
import { freeze } from '../../util/freeze.js';
import { isReference } from '../../util/is-reference.js';
import type { InputOf } from '../types/input-types.js';

/** A problem that an endpoint may answer with. */
export interface ProblemOptions {
  /** The HTTP status, from 400 to 499. */
  readonly status: number;
  /** What it is, in a few words that are the same every time. */
  readonly title: string;
  /** When it comes, in a sentence for descriptions. */
  readonly about?: string;
  /** A URI for this kind of problem (RFC 9457, section 3.1.1). Default: `about:blank`. */
  readonly type?: string;
  /** What else its details have: `values(…)`. */
  readonly members?: InputOf<unknown>;
}

/** Names that problem details have already. */
const KNOWN = ['type', 'title', 'status', 'detail', 'instance', 'errors', 'code'];

const CODE = /^[A-Za-z][\w.-]*$/;

const findingsOf = (
  path: string,
  code: string,
  { status, type, members }: ProblemOptions,
): readonly Finding[] => {
  const refuse = (message: string): Finding => ({ path, message });
  const isCaller = Number.isInteger(status) && status >= 400 && status <= 499;
  const isPlain = members === undefined || members.plan?.entity?.kind === 'values';
  const taken = isPlain ? (members?.plan.fields ?? []).filter(({ name }) => KNOWN.includes(name)) : [];
  return [
    ...(CODE.test(code) ? [] : [refuse('a code is letters, digits, dots and dashes: closed-already')]),
    ...(isCaller ? [] : [refuse(`expected a status from 400 to 499, got ${status}`)]),
    ...(type === undefined || isReference(type) ? [] : [refuse('its type is a URI, or a reference to one')]),
    ...(isPlain ? [] : [refuse('its members are values(…)')]),
    ...taken.map(({ name }) => refuse(`problem details have a member "${name}" already`)),
  ];
};

/** What is wrong with the problems of an endpoint. */
export const problemFindings = (
  route: string,
  problems: Readonly<Record<string, ProblemOptions>> = {},
): readonly Finding[] =>
  Object.entries(problems).flatMap(([code, options]) => findingsOf(`${route} ${code}`, code, options));

/** The problems of an endpoint as data. */
export const problemsOf = (problems: Readonly<Record<string, ProblemOptions>> = {}): readonly ProblemPlan[] =>
  freeze(
    Object.entries(problems).map(([code, { status, title, about = null, type = null, members }]) =>
      freeze({ code, status, title, type, about, members: members?.plan ?? null }),
    ),
  );
