export type { AnswerInfo } from './declare/answer.js';
export {
  type Api,
  type ApiOptions,
  api,
  type BodyOf,
  type EndpointNames,
  type Endpoints,
  type ParametersOf,
  type RequestOf,
  type ResponseOf,
} from './declare/api.js';
export type { Carried, SetBy } from './declare/carried.js';
export {
  type Collection,
  type CollectionOptions,
  collection,
  type OperationBodies,
  type OperationInputs,
  type OperationParameters,
  type Writing,
} from './declare/collection.js';
export {
  type AnyColumn,
  bigint,
  bool,
  bytes,
  type Column,
  type ColumnFlag,
  date,
  decimal,
  integer,
  json,
  oneOf,
  real,
  type StoredValue,
  text,
  time,
  timestamp,
  uuid,
} from './declare/column.js';
export { all, any, asked, audience, holds, not } from './declare/conditions.js';
export { asNumber } from './declare/conversions/as-number.js';
export { asText } from './declare/conversions/as-text.js';
export type { Converted } from './declare/conversions/convert.js';
export { labelled } from './declare/conversions/labelled.js';
export { lower, upper } from './declare/conversions/letter-case.js';
export { masked } from './declare/conversions/masked.js';
export { dateOnly, epochSeconds } from './declare/conversions/moments.js';
export { rounded } from './declare/conversions/rounded.js';
export { shorten } from './declare/conversions/shorten.js';
export {
  type Endpoint,
  type EndpointOptions,
  endpoint,
  type PathParameters,
  type TakenBy,
} from './declare/endpoint.js';
export { type Columns, type EntityDefinition, entity } from './declare/entity.js';
export {
  atLeast,
  atMost,
  type Comparison,
  contains,
  equals,
  type FilterMember,
  isNull,
  oneOfThese,
} from './declare/filters.js';
export { amending, input } from './declare/input.js';
export { type InputFrom, inputFrom, type LeftOut } from './declare/input-from.js';
export type {
  Change,
  Input,
  InputFields,
  InputLink,
  InputOf,
  InputRow,
  NestedInput,
  Preset,
  Settable,
  Waived,
} from './declare/input-types.js';
export { type Through, type ToMany, type ToOne, toMany, toOne } from './declare/links.js';
export { list } from './declare/list.js';
// The types that inferred declarations are made of: a package that exports its shapes names them.
export type {
  AllOf,
  AnyOf,
  AnyValue,
  Cases,
  Condition,
  Fields,
  ForAudience,
  Given,
  ListRef,
  Member,
  Nested,
  NotThat,
  Optional,
  Row,
  RowBrand,
  Sealed,
  Self,
  Sometimes,
  Value,
  Wrap,
} from './declare/member-types.js';
export { at } from './declare/members/at.js';
export { constant } from './declare/members/constant.js';
export { count } from './declare/members/count.js';
export { type Deprecation, deprecated } from './declare/members/deprecated.js';
export { derive } from './declare/members/derive.js';
export { everything } from './declare/members/everything.js';
export { first } from './declare/members/first.js';
export { given } from './declare/members/given.js';
export { assigned, optional, preset } from './declare/members/presence.js';
export { type Selection, some } from './declare/members/some.js';
export { unseal } from './declare/members/unseal.js';
export { whenPresent } from './declare/members/when-present.js';
export {
  type Bound,
  type BoundEntity,
  type Entities,
  type Links,
  type Model,
  type ModelOptions,
  type ModelTypes,
  model,
} from './declare/model.js';
export { type PageFields, type PageOptions, page } from './declare/page.js';
export { type RecursiveOptions, recursive } from './declare/recursive.js';
export { type ShapeOptions, shape } from './declare/shape.js';
export type {
  AnyBody,
  EnvelopeBody,
  ListBody,
  NullableFields,
  Output,
  Shape,
  ShapeOf,
} from './declare/shape-types.js';
export { wrap } from './declare/wrap.js';
export { clientSource } from './describe/client-source.js';
export { contractOf } from './describe/contract-of.js';
export type { DescribedFormat } from './describe/described-format.js';
export { typeNames } from './describe/type-names.js';
export { typesSource } from './describe/types-source.js';
export type { JsonSchema } from './describe/value-schema.js';
export { ConflictError, type ConflictReason } from './errors/conflict-error.js';
export { DeclarationError, type Finding } from './errors/declaration-error.js';
export { GriboError, type GriboErrorCode } from './errors/gribo-error.js';
export { RequestError, type RequestIssue } from './errors/request-error.js';
export { RowError, type RowErrorCode } from './errors/row-error.js';
export { type JsonSchemaOptions, jsonSchema } from './json-schema.js';
export { addColumns } from './load/add-columns.js';
export type { LoadColumn, LoadCount, LoadLink, LoadPlan } from './load/load-plan.js';
export { loadPlan } from './load-plan.js';
export { type OpenApiOptions, openApi } from './open-api.js';
export type { ApiPlan, EndpointPlan, FilterParameter, Operation, ParentPlan } from './plan/api-plan.js';
export { audiencesOf } from './plan/audiences-of.js';
export type { ColumnKind, ColumnType } from './plan/column-type.js';
export type {
  Contract,
  ContractEndpoint,
  ContractInput,
  ContractInputMember,
  ContractMember,
  ContractParameter,
  ContractShape,
  ContractType,
  ContractValue,
  ContractVariant,
} from './plan/contract.js';
export { CONTRACT_LAYOUT } from './plan/contract.js';
export { counts } from './plan/count-name.js';
export type {
  BodyPlan,
  DeprecationNotice,
  EnvelopePlan,
  JsonValue,
  ListPlan,
  PageSettings,
  ShapePlan,
} from './plan/declared.js';
export { contentShape, isAboutMany } from './plan/declared.js';
export type { ColumnPlan, EntityPlan, LinkPlan, ThroughPlan } from './plan/entity-plan.js';
export type { FilterOperator, ListSelection, RowFilter, SortKey } from './plan/filter.js';
export type { InputField, InputNode, InputPlan, Presence } from './plan/input-plan.js';
export type { LinkedEntities, LinkedEntity } from './plan/linked-entity.js';
export type {
  ResolvedBody,
  ResolvedField,
  ResolvedNode,
  ResolvedShape,
  RowCondition,
} from './plan/resolved.js';
export type { Situation } from './plan/situation.js';
export { wholeOrder } from './plan/whole-order.js';
export { type BareIssue, type Issue, type IssueCode, pointerPart, type SayIssue } from './read/issue.js';
export { type TextResult, valueFromText } from './read/value-from-text.js';
export { type Reader, type ReaderPolicies, type ReadResult, reader } from './reader.js';
export { resolve } from './resolve.js';
export type { NameStyle } from './review/checks/check-names.js';
export type { Change as ContractChange, ChangeCode, Effect, Side } from './review/compare/change.js';
export {
  type Comparison as ContractComparison,
  compare,
  type Difference,
  type Reach,
} from './review/compare/compare.js';
export type { VersionStep } from './review/compare/version-step.js';
export type { Accepted, FindingCode, ReviewFinding, Severity } from './review/finding.js';
export { type Flow, type FlowKind, lineage } from './review/lineage.js';
export { type Review, type ReviewOptions, review } from './review/review.js';
export type { Weight } from './review/weigh-value.js';
export { type SampledRows, type SampleOptions, samples } from './sample/samples.js';
export { serializerSource } from './serializer-source.js';
export { checkStorable } from './store/check-storable.js';
export { type MemoryOptions, type MemoryRows, type MemoryStore, memoryStore } from './store/memory-store.js';
export type { Guard, Key, KeyValue, RowQuery, Store } from './store/store.js';
export { didYouMean, nearest } from './util/nearest.js';
export { cursorOf, type PageQuery, type WantedPage, wantedPage } from './wanted-page.js';
export { weigh } from './weigh.js';
export type { EngineName } from './write/row-engine.js';
export type { FunctionModules } from './write/stand-alone/module-source.js';
export {
  type Answer,
  type DataOf,
  type LoadedRow,
  type LoadedRows,
  type StreamDataOf,
  type Writer,
  type WriterOptions,
  writer,
} from './writer.js';
