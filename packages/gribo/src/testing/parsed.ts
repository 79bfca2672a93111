import { parseJson } from '../read/parse-json.js';
import { ExactNumber } from '../values/exact-number.js';

const plain = (value: unknown): unknown => {
  if (value instanceof ExactNumber) return Number(value.text);
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map(plain);
  return Object.fromEntries(Object.entries(value).map(([name, member]) => [name, plain(member)]));
};

/** The value of a JSON text, by the strict parser: the engine's own may misread names of one escaped character. */
export const parsed = (text: string): unknown => plain(parseJson(text, { depth: 1000, items: 10_000_000 }));
