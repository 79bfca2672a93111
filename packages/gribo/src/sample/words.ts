import { oneFrom, type Random, wholeBetween } from './random.js';

const STARTS = ['Mer', 'Lan', 'An', 'Cor', 'Thal', 'Wick', 'Ost', 'Gar', 'Vin', 'Sel', 'Dor', 'Bel'];
const MIDDLES = ['a', 'o', 'e', 'ri', 'li', 'do', 'ma', 'ne'];
const ENDS = ['row', 'tern', 'selm', 'vin', 'wick', 'dra', 'lin', 'mar', 'den', 'ra', 'th', 'no'];
const PLAIN = ['small', 'old', 'open', 'early', 'late', 'north', 'quiet', 'second', 'whole', 'long'];
const THINGS = ['rope', 'lamp', 'crane', 'door', 'mast', 'list', 'bell', 'tide', 'plank', 'crate'];
const DOINGS = ['was checked', 'needs paint', 'arrived', 'is kept inside', 'was moved', 'waits for parts'];

/** A word that means nothing, with a capital. */
export const name = (random: Random): string =>
  oneFrom(random, STARTS) + (random() < 0.4 ? oneFrom(random, MIDDLES) : '') + oneFrom(random, ENDS);

/** A plain sentence. */
const sentence = (random: Random): string =>
  `The ${oneFrom(random, PLAIN)} ${oneFrom(random, THINGS)} ${oneFrom(random, DOINGS)}.`;

const digits = (random: Random, count: number): string =>
  Array.from({ length: count }, () => wholeBetween(random, 0, 9)).join('');

const letters = (random: Random, count: number): string =>
  Array.from({ length: count }, () => String.fromCharCode(wholeBetween(random, 65, 90))).join('');

/** Some sentences; now and then with what real text has in it: quotes, a line break, other letters. */
const notes = (random: Random): string => {
  const said = Array.from({ length: wholeBetween(random, 1, 4) }, () => sentence(random)).join(' ');
  return random() < 0.25
    ? `${said}\n“${name(random)}” – ${oneFrom(random, ['été', '港', 'żuraw', '⚓'])}`
    : said;
};

/** Texts by what a column is called; the first that fits is taken. */
const BY_NAME: readonly (readonly [RegExp, (random: Random) => string])[] = [
  [/e-?mail/i, (random) => `${name(random).toLowerCase()}@example.test`],
  [/phone|mobile|fax/i, (random) => `+00 555 ${digits(random, 4)}`],
  [/url|website|link/i, (random) => `https://example.test/${name(random).toLowerCase()}`],
  [/note|remark|comment|descri|detail|text|about|bio|message/i, notes],
  [/country|flag|language|currency/i, (random) => letters(random, 2)],
  [
    /code|number|reference|serial|licen[cs]e|sign$/i,
    (random) => `${letters(random, 2)}-${digits(random, 4)}`,
  ],
  [/street|address/i, (random) => `${wholeBetween(random, 1, 99)} ${name(random)} Lane`],
  [/password|secret|token|hash/i, (random) => digits(random, 12)],
  [/first|last|family|given/i, name],
  [
    /name|title|label|subject/i,
    (random) => (random() < 0.5 ? name(random) : `${name(random)} ${name(random)}`),
  ],
];

/** A text for a column that is called like this. */
export const textNamed = (column: string, random: Random): string => {
  const [, make = name] = BY_NAME.find(([pattern]) => pattern.test(column)) ?? [];
  return make(random);
};
