/**
 * For those who write stores, formats and commands of their own: plans as data, and what works on them. What
 * applications need is in `gribo` itself.
 *
 * @module gribo/kit
 */
export type { ChangePlan, ChangeStep, Flow as ChangeFlow, Values } from './change/change-plan.js';
export type { ChangeRule, ChangeRules } from './change/change-rules.js';
export { type ChangeTerms, stampedTerms } from './change/change-terms.js';
export { planChange, type WantedChange } from './change/plan-change.js';
export { runChange, type Work, type WorkRows } from './change/run-change.js';
export type { DescribedFormat } from './describe/openapi/described-format.js';
export { typeNames } from './describe/typescript/type-names.js';
export { unknownEntity } from './errors/unknown-entity.js';
export { addOrder } from './load/add-order.js';
export type { LoadColumn, LoadFigure, LoadLink, SeenRows } from './load/plan-load.js';
export type {
  ApiPlan,
  EditionPlan,
  EndpointPlan,
  FilePlan,
  FilterParameter,
  Operation,
  ParentPlan,
  ProblemPlan,
  RowRulePlan,
  SortParameter,
} from './plan/api-plan.js';
export { answers, audiencesAt } from './plan/audiences-at.js';
export { audiencesOf } from './plan/audiences-of.js';
export type { ColumnKind, ColumnType } from './plan/column-type.js';
export type {
  ColumnNode,
  Compares,
  ConditionNode,
  FactPlan,
  Figure,
  FilterOperator,
  ListSelection,
  Operand,
  RowCondition,
  SettledValue,
  SortKey,
  StoreCondition,
  ThereIs,
} from './plan/condition.js';
export type {
  BodyPlan,
  DeprecationNotice,
  EnvelopePlan,
  ListPlan,
  PageSettings,
  ShapePlan,
} from './plan/declared.js';
export { contentShape, isAboutMany } from './plan/declared.js';
export { dottedName } from './plan/dotted-name.js';
export { editionsOf, inEdition } from './plan/editions-of.js';
export type {
  Coding,
  ColumnPlan,
  EntityPlan,
  LinkPlan,
  StampGiven,
  StampPlan,
  ThroughPlan,
} from './plan/entity-plan.js';
export { figures } from './plan/figures.js';
export { holdAlike } from './plan/hold-alike.js';
export type { InputField, InputNode, InputPlan, Presence } from './plan/input-plan.js';
export { dayOf, isOver } from './plan/is-over.js';
export { allOf, anyOf, isNever } from './plan/joined.js';
export type { LinkedEntities, LinkedEntity } from './plan/linked-entity.js';
export { NEVER } from './plan/never.js';
export type { ResolvedBody, ResolvedField, ResolvedNode, ResolvedShape } from './plan/resolved.js';
export { sayCondition } from './plan/say-condition.js';
export { UNDECIDED } from './plan/undecided.js';
export { whereShown } from './plan/where-shown.js';
export { wholeOrder } from './plan/whole-order.js';
export { bareIssue, spoken } from './read/issue.js';
export { ParseFailure, parseJson } from './read/parse-json.js';
export { MOST_ISSUES } from './read/read-input.js';
export { sayWanted } from './read/say-issue.js';
export { type TextResult, valueFromText } from './read/value-from-text.js';
export { type Cell, cellsAt, matrixOf, type SendingEndpoint } from './resolve/matrix.js';
export { rulesFor, type SettledRule, type SettledRules } from './resolve/rules-for.js';
export { settledInput } from './resolve/settle-input.js';
export { type SettledQuery, settledQuery } from './resolve/settle-query.js';
export { unsetColumns } from './resolve/unset-columns.js';
export type { FindingRule, Found, ReviewContext } from './review/finding.js';
export { FINDINGS } from './review/findings/findings.js';
export { reviewRules } from './review/review.js';
export { type InputLine, inputTable, type TakenWay, type Taking } from './review/table/input-table.js';
export {
  type How,
  memberTable,
  type Sending,
  type TableLine,
  type Way,
  type When,
} from './review/table/member-table.js';
export { type RowLine, rowTable } from './review/table/row-table.js';
export { sayTaken, sayWay } from './review/table/say-way.js';
export { factsWanted } from './rows/facts-wanted.js';
export { type LoadMap, mapLoad } from './rows/map-load.js';
export { type EndpointExamples, examplesOf } from './sample/examples-of.js';
export { sampleFacts } from './sample/sample-facts.js';
export { checkStorable } from './store/check-storable.js';
export { Repeatable } from './store/repeatable.js';
export type { ChangeOptions, Guard, KeyValue, RowQuery } from './store/store.js';
export { clock } from './util/clock.js';
export { isReference } from './util/is-reference.js';
export { didYouMean, nearest } from './util/nearest.js';
export { clockText } from './values/calendar.js';
export { compareDecimals } from './values/compare-raw.js';
export { comparison, ordering } from './values/comparison.js';
export { decimalOf, digitsOf, withPlaces } from './values/decimals.js';
export { durationText } from './values/durations.js';
export { factsFor } from './values/facts-for.js';
export { averageOf, figureOf, sumOf } from './values/figures.js';
export { inKeyOrder } from './values/in-key-order.js';
export { jsonReady } from './values/kinds.js';
export { orderedValue, satisfies, storedValue } from './values/satisfies.js';
export { type AnyRows, isLines, type OpenRows, type PackedLayout } from './write/packed/open-rows.js';
export { isPacked, type PackedRows, packedRows } from './write/packed/packed-rows.js';
