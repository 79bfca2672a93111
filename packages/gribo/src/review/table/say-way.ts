import type { TakenWay } from './input-table.js';
import type { How, Way, When } from './member-table.js';

const howWords = (how: How): string => {
  if (how.kind === 'linked') return how.path.join('.');
  return how.kind === 'converted' ? how.by : how.kind;
};

const whenWords = (when: When, sayWhere: (where: string) => string): string => {
  if (when.kind === 'asked') return `with=${when.names.join(',')}`;
  return when.kind === 'rows' ? sayWhere(when.where) : 'not null';
};

const forWhom = (words: string, whom: Way['whom']): string =>
  whom === null ? words : `${whom.map((audience) => audience ?? 'no audience').join(', ')}: ${words}`;

/**
 * One way in which a member is sent, in English: `shorten, not null`.
 *
 * @param sayWhere puts the condition of a member that is there for some rows into words. Default: all of it
 * @example
 * sayWay({ how: { kind: 'converted', by: 'shorten' }, when: null, whom: ['agent'] }) // => agent: shorten
 */
export const sayWay = (
  { how, when, whom }: Way,
  sayWhere: (where: string) => string = (where) => `where ${where}`,
): string => {
  const words = when === null ? howWords(how) : `${howWords(how)}, ${whenWords(when, sayWhere)}`;
  return forWhom(words, whom);
};

/**
 * What a member of an input is, in English: `optional, sets name by trimmed`.
 *
 * @param member the member's name: a column that is called alike is not named again
 * @example
 * sayTaken({ sets: 'name', by: [], presence: 'required', whom: ['office'] }, 'name') // => office: required
 */
export const sayTaken = ({ sets, by, presence, whom }: TakenWay, member: string): string => {
  const target = sets === member ? '' : `, sets ${sets}`;
  const ways = by.length === 0 ? '' : ` by ${by.join(', ')}`;
  return forWhom(`${presence}${target}${ways}`, whom);
};
