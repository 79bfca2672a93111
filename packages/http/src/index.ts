/**
 * Serves an API over HTTP: negotiation, formats, problem details, conditional requests, streams.
 *
 * @module @gribo/http
 */

export {
  type EditionPlace,
  type EditionPlaceSettings,
  type EditionsOptions,
  editionPlace,
} from './editions/editions-options.js';
export { cbor } from './formats/cbor.js';
export { csv } from './formats/csv.js';
export { form } from './formats/form.js';
export {
  type Format,
  type MakeLines,
  MalformedBody,
  type OutgoingBody,
  type OutgoingRows,
  type RowRead,
} from './formats/format.js';
export { json } from './formats/json.js';
export { ndjson } from './formats/ndjson.js';
export { type XmlOptions, xml } from './formats/xml.js';
export { handlersWanted } from './handlers/check-handlers.js';
export type {
  AnyHandler,
  Handler,
  HandlerContext,
  HandlerResult,
  Handlers,
  Load,
  Loader,
  LoadOptions,
  MakeProblem,
  ProceedOptions,
  StoredRows,
  TransactionOptions,
} from './handlers/handlers.js';
export { fastifyRoutes } from './hosting/fastify-routes.js';
export type { FetchHandler, Served } from './hosting/fetch-handler.js';
export { hostRequest } from './hosting/host-request.js';
export { type NodeListener, nodeListener } from './hosting/node-listener.js';
export type { ClosedServer, Closing } from './life/close.js';
export type { RequestEvent, StatementEvent } from './life/observed.js';
export type { Identity } from './message/identity.js';
export type { Asking } from './pipeline/asking.js';
export type { Log } from './problems/failed-response.js';
export { Problem, type ProblemDetails } from './problems/problem.js';
export type { TakenFile } from './request/read-files.js';
export { type Received, type ReceiveOptions, type RespondOptions, receive, respond } from './respond.js';
export { type ServeOptions, serve } from './serve.js';
export { type FormatOptions, type Limits, standardFormats } from './settings/settings.js';
export { type AnswerColumns, answerColumns } from './stores/answer-columns.js';
