/**
 * The core: declare entities, shapes, inputs and an API; write, read, load, change, describe and review. No dependency, no I/O.
 *
 * @module gribo
 */
export type { EngineName, EngineOptions } from './codegen/engine.js';
export {
  type Comparison as ContractComparison,
  compare,
  type Difference,
  type Reach,
} from './contract/compare/compare.js';
export type { ChangeCode, ContractChange, Effect, Side } from './contract/compare/contract-change.js';
export type { VersionStep } from './contract/compare/version-step.js';
export type {
  Contract,
  ContractEndpoint,
  ContractFile,
  ContractInput,
  ContractInputMember,
  ContractMember,
  ContractParameter,
  ContractProblem,
  ContractQueryMember,
  ContractShape,
  ContractTaken,
  ContractType,
  ContractValue,
  ContractVariant,
} from './contract/contract.js';
export { CONTRACT_LAYOUT } from './contract/contract.js';
export { contractOf } from './contract/make/contract-of.js';
export {
  type AnyApi,
  type Api,
  type ApiOptions,
  type AudienceIn,
  api,
  type BodyOf,
  type CallerIn,
  type EditionIn,
  type Endpoints,
  type EntityAt,
  type FilesOf,
  type ModelAt,
  type NameIn,
  type ParametersOf,
  type ProblemsOf,
  type QueryOf,
  type RequestOf,
  type ResponseOf,
} from './declare/api/api.js';
export {
  type ApiNames,
  type ApiNamesOptions,
  type AskedAmong,
  type AtAmong,
  type AudienceAmong,
  apiNames,
  type EditionBeforeAmong,
  type EditionFromAmong,
  type UnsealAmong,
} from './declare/api/api-names.js';
export {
  type AnyCollection,
  type Collection,
  type CollectionOptions,
  collection,
  type OperationParameters,
  type Writing,
} from './declare/api/collection.js';
export type { EditionOption } from './declare/api/edition-plans.js';
export {
  type AnyEndpoint,
  type Endpoint,
  type EndpointOptions,
  endpoint,
  type FilesIn,
  type PathParameters,
  type ProblemsIn,
} from './declare/api/endpoint.js';
export { ofEdition } from './declare/api/of-edition.js';
export { type RowRule, type RowRuleOptions, rowRule } from './declare/api/row-rule.js';
export { type ApiSituation, situationOf } from './declare/api/situation-of.js';
export type { EnvelopeInfo } from './declare/body/envelope.js';
export { fileOf } from './declare/body/file-of.js';
export { list } from './declare/body/list.js';
export { type PageFields, type PageOptions, page } from './declare/body/page.js';
export { wrap } from './declare/body/wrap.js';
export { type Caller, type CallerFacts, callerOf, type Facts, now } from './declare/caller/caller-of.js';
export {
  atLeast,
  atMost,
  contains,
  equals,
  isNull,
  oneOfThese,
} from './declare/conditions/comparisons.js';
export {
  all,
  any,
  asked,
  audience,
  editionBefore,
  editionFrom,
  holds,
  not,
} from './declare/conditions/conditions.js';
export { type RowsWhere, rowsWhere } from './declare/conditions/rows-where.js';
export type { Converted } from './declare/conversions/conversion.js';
export * from './declare/conversions/conversions.js';
export type { AnyColumn, Column, ColumnFlag, StoredValue } from './declare/entity/column.js';
export * from './declare/entity/columns.js';
export { type Columns, type EntityDefinition, entity } from './declare/entity/entity.js';
export { type Through, type ToMany, type ToOne, toMany, toOne } from './declare/entity/links.js';
export {
  type Bound,
  type BoundEntity,
  type Entities,
  type EntityName,
  type Links,
  type Model,
  type ModelOf,
  type ModelOptions,
  type ModelTypes,
  model,
} from './declare/entity/model.js';
export { type FileOptions, file } from './declare/input/file.js';
export { amending, input } from './declare/input/input.js';
export { type InputFrom, inputFrom, type LeftOut } from './declare/input/input-from.js';
export { assigned, optional, preset } from './declare/input/presence.js';
export { values } from './declare/input/values.js';
export { at } from './declare/members/at.js';
export { constant } from './declare/members/constant.js';
export { count } from './declare/members/count.js';
export { type Deprecation, deprecated } from './declare/members/deprecated.js';
export { derive } from './declare/members/derive.js';
export { everything } from './declare/members/everything.js';
export { average, maximum, minimum, sum } from './declare/members/figures.js';
export { first } from './declare/members/first.js';
export { given } from './declare/members/given.js';
export { orElse } from './declare/members/or-else.js';
export { type Selection, type SortBy, some } from './declare/members/some.js';
export { unlessNull } from './declare/members/unless-null.js';
export { type Unsealable, type Unsealed, unseal } from './declare/members/unseal.js';
export { type RecursiveOptions, recursive } from './declare/shape/recursive.js';
export { type ShapeOptions, shape } from './declare/shape/shape.js';
export type { Carried, SetBy } from './declare/types/carried.js';
export type { Comparison, FilterMember } from './declare/types/comparison.js';
export type { ByEdition } from './declare/types/edition-types.js';
export type { FileBody, FileMembers, FileTaken } from './declare/types/file-types.js';
export type {
  Change,
  InputFields,
  InputLink,
  InputList,
  InputOf,
  InputRow,
  NestedInput,
  Preset,
  Settable,
  Takable,
  Waived,
} from './declare/types/input-types.js';
// The types that inferred declarations are made of: a package that exports its shapes names them.
export type {
  AllOf,
  AnyOf,
  AnyValue,
  Asks,
  BeforeEdition,
  Cases,
  Condition,
  Conditional,
  Either,
  Fields,
  ForAudience,
  FromEdition,
  Given,
  LinkedRow,
  ListRef,
  MadeOf,
  Member,
  Nested,
  NotThat,
  Optional,
  Row,
  RowBrand,
  SaidBy,
  Sealed,
  Self,
  Sometimes,
  Stored,
  Value,
  ValueOf,
  Wrap,
} from './declare/types/member-types.js';
export type { ColumnValues, GivenRow, LoadedRow, RowFor, StoredRow } from './declare/types/row-types.js';
export type { As, ByMembers, Carries } from './declare/types/sent.js';
export type {
  AnyBody,
  EnvelopeBody,
  ListBody,
  NestedOne,
  NestedOneOrNull,
  NullableFields,
  Output,
  Shape,
  ShapeOf,
} from './declare/types/shape-types.js';
export type { SituationFor } from './declare/types/situation-types.js';
export type {
  BodyIn,
  Input,
  Standard,
  StandardInput,
  StandardIssue,
  StandardResult,
} from './declare/types/standard-types.js';
export type { JsonSchema } from './describe/kinds.js';
export { type OpenApiOptions, openApi } from './describe/openapi/open-api.js';
export { type JsonSchemaOptions, jsonSchema } from './describe/schema/json-schema.js';
export { clientSource } from './describe/typescript/client-source.js';
export { typesSource } from './describe/typescript/types-source.js';
export { ConflictError, type ConflictReason } from './errors/conflict-error.js';
export { DeclarationError, type Finding } from './errors/declaration-error.js';
export { GriboError, type GriboErrorCode } from './errors/gribo-error.js';
export { RequestError, type RequestIssue } from './errors/request-error.js';
export { RowError, type RowErrorCode } from './errors/row-error.js';
export { RuleError } from './errors/rule-error.js';
export { loadPlan } from './load/load-plan.js';
export type { LoadPlan } from './load/plan-load.js';
export { cursorOf, type PageQuery, type WantedPage, wantedPage } from './load/wanted-page.js';
export type { JsonValue } from './plan/condition.js';
export type { StampGiven, StampPlan } from './plan/entity-plan.js';
export type { Situation } from './plan/situation.js';
export {
  type BareIssue,
  type Came,
  type Issue,
  type IssueCode,
  type IssueLimits,
  type IssueReason,
  pointerPart,
  type SayIssue,
  type SyntaxWanted,
  type Wanted,
} from './read/issue.js';
export {
  type BodyLimits,
  type Reader,
  type ReaderOptions,
  type ReaderPolicies,
  type ReadResult,
  reader,
} from './read/reader.js';
export { sayIssue } from './read/say-issue.js';
export { resolve } from './resolve/resolve.js';
export type { Accepted, ReviewFinding, Serving, Severity } from './review/finding.js';
export { type Flow, type FlowKind, lineage } from './review/lineage/lineage.js';
export type { NameStyle } from './review/name-style.js';
export { type Review, type ReviewOptions, review } from './review/review.js';
export { type CallerGiven, type SeenStore, storeFor } from './rows/store-for.js';
export { type SampledRows, type SampleOptions, samples } from './sample/samples.js';
export { type MemoryOptions, type MemoryRows, type MemoryStore, memoryStore } from './store/memory-store.js';
export type { Key, Store, StoreScope, TransactionTerms } from './store/store.js';
export type { GivenFacts } from './values/facts-for.js';
export { weigh } from './weigh/weigh.js';
export type { Weight } from './weigh/weigh-value.js';
export { type CsvOptions, csvLines, jsonLines, type LineWriter } from './write/lines/line-writer.js';
export { misfitsIn } from './write/misfits-in.js';
export type { FunctionModules } from './write/modules/module-source.js';
export { serializerSource } from './write/modules/serializer-source.js';
export {
  type EnvelopeData,
  type LoadedRows,
  type RowsOf,
  type StreamedRowsOf,
  type Writer,
  writer,
} from './write/writer.js';
