import type { ColumnType } from '../plan/column-type.js';
import { base64Text } from '../util/base64.js';
import { jsonText } from './json-text.js';

/** Whether accepted values of a type go out as they are. */
export const isJsonAlready = ({ kind }: ColumnType): boolean =>
  kind !== 'timestamp' && kind !== 'bigint' && kind !== 'bytes' && kind !== 'json';

/** An accepted value as JSON shows it. */
export const jsonReady = (type: ColumnType, value: unknown): unknown => {
  switch (type.kind) {
    case 'timestamp':
      return (value as Date).toISOString();
    case 'bigint':
      return String(value);
    case 'bytes':
      return base64Text(value as Uint8Array);
    case 'json':
      // A copy, so that the response shares nothing with the row and `toJSON` is called once.
      return JSON.parse(jsonText(value) ?? 'null');
    case 'text':
    case 'integer':
    case 'real':
    case 'decimal':
    case 'bool':
    case 'date':
    case 'time':
    case 'uuid':
    case 'oneOf':
      return value;
    default:
      return type satisfies never;
  }
};
