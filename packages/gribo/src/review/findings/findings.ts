import type { FindingRule } from '../finding.js';
import { everybodysRows } from './everybodys-rows.js';
import { everything } from './everything.js';
import { forms } from './forms.js';
import { heavyList } from './heavy-list.js';
import { keptForSome } from './kept-for-some.js';
import { manyRows } from './many-rows.js';
import { neverCreated } from './never-created.js';
import { noAudience } from './no-audience.js';
import { noSample } from './no-sample.js';
import { otherRuleBehind } from './other-rule-behind.js';
import { overdue } from './overdue.js';
import { rowsByEdition } from './rows-by-edition.js';
import { ruleByOwnChange } from './rule-by-own-change.js';
import { style } from './style.js';
import { toldByCode } from './told-by-code.js';
import { toldByCondition } from './told-by-condition.js';
import { toldByConflict } from './told-by-conflict.js';
import { toldByMask } from './told-by-mask.js';
import { toldByOrder } from './told-by-order.js';
import { toldByRemoval } from './told-by-removal.js';
import { unbounded } from './unbounded.js';
import { undecided } from './undecided.js';
import { unsealed } from './unsealed.js';
import { unshown } from './unshown.js';
import { writeOnly } from './write-only.js';

/**
 * The table of what a review looks for: a row for each file.
 *
 * @example
 * FINDINGS.map(({ code }) => code).includes('unsealed') // => true
 */
export const FINDINGS: readonly FindingRule[] = Object.freeze([
  unsealed,
  everything,
  unshown,
  undecided,
  writeOnly,
  neverCreated,
  noAudience,
  unbounded,
  heavyList,
  style,
  overdue,
  noSample,
  forms,
  keptForSome,
  manyRows,
  toldByConflict,
  toldByCode,
  toldByCondition,
  toldByMask,
  toldByOrder,
  toldByRemoval,
  everybodysRows,
  rowsByEdition,
  ruleByOwnChange,
  otherRuleBehind,
]);
