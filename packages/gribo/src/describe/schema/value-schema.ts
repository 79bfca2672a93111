import type { ContractValue } from '../../contract/contract.js';
import type { JsonValue } from '../../plan/declared.js';
import { CLOCK, WHOLE } from '../../values/patterns.js';

/** A JSON Schema, or a part of one (draft 2020-12). */
export interface JsonSchema {
  readonly [keyword: string]: JsonValue;
}

/** Whether a value is sent or taken: what is sent was stored some day, maybe under other limits. */
export type Direction = 'response' | 'request';

/** Keywords for limits, leaving out those that there are not. */
const limits = (keywords: Readonly<Record<string, JsonValue | undefined>>): JsonSchema =>
  Object.fromEntries(
    Object.entries(keywords).filter((entry): entry is [string, JsonValue] => entry[1] !== undefined),
  );

/** JSON Schema counts characters where `length` counts UTF-16 units: one character may be two of them. */
const fewestCharacters = (min: number | undefined): number | undefined =>
  min === undefined || min <= 0 ? undefined : Math.ceil(min / 2);

const DECIMAL = '^-?\\d+(?:\\.\\d+)?$';

const exactDecimal = (precision: number, scale: number): string => {
  const before = precision - scale;
  const whole = before === 0 ? '0' : `(?:0|[1-9]\\d{0,${before - 1}})`;
  return `^-?${whole}${scale === 0 ? '' : `(?:\\.\\d{1,${scale}})?`}$`;
};

const wholeWords = (min: string | undefined, max: string | undefined): string => {
  const least = min === undefined ? '' : `, ${min} or more`;
  return `A whole number as text${least}${max === undefined ? '' : `, ${max} or less`}.`;
};

/** The schema of a value that is not null. */
export const valueSchema = (type: ContractValue, direction: Direction): JsonSchema => {
  switch (type.kind) {
    case 'text':
      return {
        type: 'string',
        ...limits({ minLength: fewestCharacters(type.min), maxLength: type.max, pattern: type.pattern }),
      };
    case 'integer':
    case 'real':
      return {
        type: type.kind === 'integer' ? 'integer' : 'number',
        ...limits({ minimum: type.min, maximum: type.max }),
      };
    case 'bigint':
      return { type: 'string', pattern: WHOLE.source, description: wholeWords(type.min, type.max) };
    case 'decimal': {
      const { precision, scale } = type;
      const description = `A decimal as text: at most ${precision - scale} digits before the point and ${scale} after it.`;
      const pattern = direction === 'request' ? exactDecimal(precision, scale) : DECIMAL;
      return { type: 'string', pattern, description };
    }
    case 'bool':
      return { type: 'boolean' };
    case 'date':
      return { type: 'string', format: 'date' };
    case 'time':
      return { type: 'string', pattern: CLOCK.source, description: 'A time of day, such as 06:30:00.' };
    case 'timestamp':
      return { type: 'string', format: 'date-time' };
    case 'uuid':
      return { type: 'string', format: 'uuid' };
    case 'json':
      return {};
    case 'bytes':
      return {
        type: 'string',
        contentEncoding: 'base64',
        ...limits({ maxLength: type.max === undefined ? undefined : Math.ceil(type.max / 3) * 4 }),
      };
    case 'oneOf':
      return { type: 'string', enum: type.choices };
    default:
      return type satisfies never;
  }
};
