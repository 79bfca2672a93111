import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ColumnKind, ColumnType, OfKind } from '../../plan/column-type.js';
import { FIRST_MOMENT, LAST_MOMENT } from '../../values/calendar.js';

/** Where a program has a value: the local that holds it as the row does, and the one in which it is readied. */
export interface Places {
  readonly name: string;
  readonly ready: string;
}

/**
 * How a value's text is written, in JSON and in cells: `ascii` is short and has nothing to be replaced, `json` and `list`
 * are JSON already.
 */
export type WrittenForm = 'text' | 'ascii' | 'number' | 'truth' | 'moment' | 'base64' | 'json' | 'list';

/** How programs check, measure and write the values of one kind. */
export interface WriteKind<K extends ColumnKind> {
  /** Stops where the value, which is not null, is not of its type; readies it where it is written in another form. */
  check(places: Places, type: OfKind<K>, halt: string, out: SourceWriter): string;
  /** Where what is written is, and of what the length says how much room it takes, where `most` cannot; left out: the value itself. */
  readonly measured?: 'ready' | 'bytes';
  /** The most bytes that any value takes; left out: it depends on the value. */
  most?(type: OfKind<K>): number;
  readonly form: WrittenForm;
  /** The expression of the value as JSON shows it; left out: the value itself. */
  shown?(places: Places): string;
}

const asReady = ({ ready }: Places): string => ready;
const checked =
  (helper: string) =>
  ({ name }: Places, _type: unknown, halt: string): string =>
    `if(!${helper}(${name}))${halt}`;

/** Brings a value into the one form that it is written in; undefined where it has none. */
const brought =
  (helper: string) =>
  ({ name }: Places, _type: unknown, halt: string): string =>
    `${name}=${helper}(${name});if(${name}===undefined)${halt}`;

const checkMoment = ({ name, ready }: Places, _type: unknown, halt: string): string => {
  const range = `if(!(${ready}>=${FIRST_MOMENT}&&${ready}<=${LAST_MOMENT}))${halt}`;
  return `if(!(${name} instanceof Date)&&!isDate(${name}))${halt}${ready}=${name}.getTime();${range}`;
};

/** A row for every kind: one that is missing does not compile. */
const WRITE_KINDS: { readonly [K in ColumnKind]: WriteKind<K> } = {
  text: {
    check: ({ name }, _type, halt) => `if(typeof ${name}!=="string")${halt}`,
    form: 'text',
  },
  integer: {
    check: ({ name }, _type, halt) => `if(${name}!==(${name}|0)&&!Number.isInteger(${name}))${halt}`,
    most: () => 25,
    form: 'number',
  },
  real: {
    check: ({ name }, _type, halt) => `if(typeof ${name}!=="number"||${name}-${name}!==0)${halt}`,
    most: () => 25,
    form: 'number',
  },
  bigint: {
    check: ({ name, ready }, _type, halt) =>
      `${name}=whole(${name});if(${name}===undefined)${halt}${ready}=""+${name};`,
    measured: 'ready',
    form: 'ascii',
    shown: asReady,
  },
  decimal: { check: checked('isDecimal'), form: 'ascii' },
  bool: {
    check: ({ name }, _type, halt) => `if(typeof ${name}!=="boolean")${halt}`,
    most: () => 5,
    form: 'truth',
  },
  date: {
    check: brought('day'),
    most: () => 12,
    form: 'ascii',
  },
  time: {
    check: brought('clock'),
    most: () => 20,
    form: 'ascii',
  },
  duration: {
    check: brought('duration'),
    form: 'text',
  },
  timestamp: {
    check: checkMoment,
    measured: 'ready',
    most: () => 26,
    form: 'moment',
    shown: ({ name }) => `${name}.toISOString()`,
  },
  uuid: { check: checked('isUuid'), most: () => 38, form: 'ascii' },
  json: {
    check: ({ name, ready }, _type, halt) =>
      `if(${name}===undefined)${halt}${ready}=json(${name});if(${ready}===undefined)${halt}`,
    measured: 'ready',
    form: 'json',
    shown: ({ ready }) => `copyOf(${ready})`,
  },
  bytes: {
    check: checked('isBytes'),
    measured: 'bytes',
    form: 'base64',
    shown: ({ name }) => `base64Text(${name})`,
  },
  oneOf: {
    check: ({ name }, { choices }, halt, out) =>
      `if(${choices.map((choice) => `${name}!==${out.quoted(choice)}`).join('&&')})${halt}`,
    most: ({ choices }) => Math.max(...choices.map((choice) => choice.length)) * 6 + 2,
    form: 'text',
  },
  array: {
    check: ({ name, ready }, type, halt, out) =>
      `${ready}=list(${out.constants.name(type)},${name});if(${ready}===undefined)${halt}`,
    measured: 'ready',
    form: 'list',
    shown: ({ ready }) => `copyOf(${ready})`,
  },
};

/** How programs write values of a type: the row of its kind. */
export const writeKind = (type: { readonly kind: ColumnKind }): WriteKind<ColumnKind> =>
  // A row takes types of its own kind, and is found by that.
  WRITE_KINDS[type.kind] as WriteKind<ColumnKind>;

/** The local that holds a value's text: itself, or what it was readied to. */
export const writtenPlace = ({ name, ready, type }: Places & { readonly type: ColumnType }): string =>
  writeKind(type).measured === 'ready' ? ready : name;
