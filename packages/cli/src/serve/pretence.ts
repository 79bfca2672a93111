import { Problem } from '@gribo/http';

/** What an answer is made to look like, so that a client can be tried against it. */
export interface Pretence {
  /** Milliseconds before it begins. */
  readonly wait: number;
  /** The status of the problem that is answered in its place; null: it is answered as ever. */
  readonly status: number | null;
  /** Bytes of the body after which the connection is cut; null: all of it is sent. */
  readonly cut: number | null;
  /** Bytes in a second that the body is sent with; null: as fast as may be. */
  readonly pace: number | null;
}

/** The header that says it; a dictionary of whole numbers, as of RFC 9651, section 3.2. */
export const PRETEND = 'pretend';

const LONGEST_WAIT = 120_000;

const PARTS: Readonly<Record<keyof Pretence, readonly [least: number, most: number]>> = {
  wait: [0, LONGEST_WAIT],
  status: [400, 599],
  cut: [0, 1_000_000_000],
  pace: [1, 1_000_000_000],
};

const isPart = (name: string): name is keyof Pretence => Object.hasOwn(PARTS, name);

/** What is wrong with a part: a sentence that says what may stand there. */
const wrongPart = (part: string): string => {
  const wanted = Object.entries(PARTS).map(([name, [least, most]]) => `${name}=<${least} to ${most}>`);
  return `pretend: "${part}" is none of ${wanted.join(', ')}.`;
};

/**
 * Reads `wait=1500, status=503`.
 *
 * @returns what is pretended, or the sentence that says what is wrong with it
 */
export const readPretence = (text: string): Pretence | string => {
  const said: Record<keyof Pretence, number | null> = { wait: null, status: null, cut: null, pace: null };
  for (const part of text.split(',').map((each) => each.trim())) {
    const [, name = '', digits = ''] = /^(\w+)=(\d{1,10})$/.exec(part) ?? [];
    if (!isPart(name)) return wrongPart(part);
    const [least, most] = PARTS[name];
    const number = Number(digits);
    if (number < least || number > most) return wrongPart(part);
    said[name] = number;
  }
  return { ...said, wait: said.wait ?? 0 };
};

/** What is pretended to one request: what its header says, else what is said for all. */
export const pretenceOf = (request: Request, otherwise: Pretence | null): Pretence | null => {
  const said = request.headers.get(PRETEND);
  if (said === null) return otherwise;
  const read = readPretence(said);
  if (typeof read === 'string') throw new Problem(400, { detail: read });
  return read;
};

/** The problem that is answered in the place of what was asked. */
export const pretendedProblem = (status: number): Problem =>
  new Problem(status, {
    detail: 'It is only pretended.',
    ...(status === 503 || status === 429 ? { headers: { 'retry-after': '2' } } : {}),
    ...(status === 401 ? { headers: { 'www-authenticate': 'Bearer' } } : {}),
  });
