import type { ConversionRule } from '../declare/conversions/conversion.js';
import { converted } from '../declare/conversions/conversion.js';
import * as table from '../declare/conversions/conversions.js';
import { kebabCase } from '../util/kebab-case.js';

/** What a conversion's file has in it besides the function that people call. */
export interface ConversionFile {
  readonly apply: unknown;
  readonly rule: ConversionRule;
}

/** The files of all conversions, by the names in the table: nothing is listed twice. */
export const CONVERSIONS: ReadonlyMap<string, ConversionFile> = new Map(
  await Promise.all(
    Object.keys(table).map(
      async (name): Promise<[string, ConversionFile]> => [
        name,
        await import(`../declare/conversions/${kebabCase(name)}.js`),
      ],
    ),
  ),
);

// biome-ignore lint/suspicious/noExplicitAny: laws convert values of every type
type Any = any;

/**
 * Every conversion that takes values of a column, with everything that it is to be tried with.
 *
 * @param which all of them, or those that can show every value
 */
export const conversionsOf = (column: Any, which: 'all' | 'total'): readonly ((value: Any) => Any)[] => {
  const { type } = column.settings;
  return [...CONVERSIONS.values()]
    .filter(({ rule }) => rule.takes.includes(type.kind))
    .filter(({ rule }) => which === 'all' || !rule.partial?.includes(type.kind))
    .flatMap(({ rule }) =>
      rule.tries(type).map(
        (choices) =>
          (value: Any): Any =>
            converted(rule, value, ...choices),
      ),
    );
};
