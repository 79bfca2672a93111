/** Words that tell of what not everybody should see. */
const WORDS = new Set(
  [
    'password passwd pwd passphrase passcode secret secrets token tokens salt hash phone telephone mobile fax email mail address',
    'credit card birth birthday birthdate iban bic salary wage medical health passport ssn pin apikey',
  ].flatMap((words) => words.split(' ')),
);

/** Pairs of words that do. */
const PAIRS = new Set([
  'api key',
  'account no',
  'account number',
  'bank account',
  'card number',
  'card no',
  'credit card',
  'gate code',
  'pin code',
  'private key',
  'tax id',
  'tax number',
]);

/** Words behind others that say that the value itself is not here: what is counted, or what a row is known by. */
const ABOUT = new Set([
  'id',
  'count',
  'type',
  'kind',
  'at',
  'on',
  'by',
  'format',
  'length',
  'status',
  'verified',
]);

const wordsOf = (name: string): readonly string[] =>
  name
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu}+)(\p{Lu}\p{Ll})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '');

/**
 * Whether the name of a column tells of what not everybody should see: scans seal such columns until somebody decides.
 *
 * @param name the column's, in any style
 * @returns true for `passwordHash`, `home_phone`, `apiKey`
 * @example
 * const isSealed = seemsSecret('password_hash');
 */
export const seemsSecret = (name: string): boolean => {
  const words = wordsOf(name);
  if (words.some((word, i) => PAIRS.has(`${words[i - 1] ?? ''} ${word}`))) return true;
  return !ABOUT.has(words.at(-1) ?? '') && words.some((word) => WORDS.has(word));
};
