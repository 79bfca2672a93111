import type { ColumnKind } from '../../plan/column-type.js';
import type { Places } from '../generated/kinds.js';

/** The call that appends a value to the bytes `b`, its view `d`, at `p` as a cell; null for truths, which are literals. */
type WriteCell = (places: Places, isGuarded: boolean) => string | null;

const asPlain: WriteCell = ({ name }) => `plainCell(b,${name},p)`;
const asReady: WriteCell = ({ ready }) => `plainCell(b,${ready},p)`;
const asNumber: WriteCell = ({ name }) => `number(b,${name},p)`;
const asText: WriteCell = ({ name }, isGuarded) => `${isGuarded ? 'guardedCell' : 'cell'}(b,d,${name},p)`;

/** A row for every kind: one that is missing does not compile. */
export const CELL_KINDS: { readonly [K in ColumnKind]: WriteCell } = {
  text: asText,
  integer: asNumber,
  real: asNumber,
  bigint: asReady,
  decimal: asPlain,
  bool: () => null,
  date: asPlain,
  time: asPlain,
  duration: asText,
  timestamp: ({ ready }) => `momentDigits(d,${ready},p)`,
  uuid: asPlain,
  json: ({ ready }, isGuarded) => `jsonCell(b,${ready},p,${isGuarded})`,
  bytes: ({ name }, isGuarded) => `base64Cell(b,${name},p,${isGuarded})`,
  oneOf: asText,
  array: ({ ready }) => `cell(b,d,${ready},p)`,
};
