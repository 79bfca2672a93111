import type { How, Way, When } from './member-table.js';

const howWords = (how: How): string => {
  if (how.kind === 'linked') return how.path.join('.');
  return how.kind === 'converted' ? how.by : how.kind;
};

const whenWords = (when: When): string => {
  if (when.kind === 'asked') return `with=${when.names.join(',')}`;
  return when.kind === 'rows' ? 'some rows' : 'not null';
};

/**
 * One way in which a member is sent, in English: `shorten, not null`.
 *
 * @example
 * sayWay({ how: { kind: 'converted', by: 'shorten' }, when: null, whom: ['agent'] }) // => agent: shorten
 */
export const sayWay = ({ how, when, whom }: Way): string => {
  const words = when === null ? howWords(how) : `${howWords(how)}, ${whenWords(when)}`;
  if (whom === null) return words;
  return `${whom.map((audience) => audience ?? 'no audience').join(', ')}: ${words}`;
};
