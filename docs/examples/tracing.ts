import { subscribe, unsubscribe } from 'node:diagnostics_channel';
import type { RequestEvent, StatementEvent } from '@gribo/http';
import {
  context,
  propagation,
  type Span,
  SpanKind,
  SpanStatusCode,
  type Tracer,
  trace,
} from '@opentelemetry/api';

/**
 * Traces what a service does: a span for each request, and one in it for each statement, by the names of OpenTelemetry's
 * conventions.
 *
 * @returns what ends that
 */
export const traceRequests = (tracer: Tracer): (() => void) => {
  const spans = new WeakMap<object, Span>();
  const heard: Readonly<Record<string, (event: unknown) => void>> = {
    'gribo:request:start': (event) => {
      const { method, request } = event as RequestEvent;
      // What it is a part of is said by its header `traceparent` (W3C Trace Context).
      const within = propagation.extract(context.active(), Object.fromEntries(request.headers));
      const attributes = { 'http.request.method': method, 'url.path': new URL(request.url).pathname };
      spans.set(event as object, tracer.startSpan(method, { kind: SpanKind.SERVER, attributes }, within));
    },
    'gribo:statement': (event) => {
      const { of, statement, milliseconds } = event as StatementEvent;
      const parent = spans.get(of);
      if (parent === undefined) return;
      const end = Date.now();
      const options = {
        kind: SpanKind.CLIENT,
        startTime: end - milliseconds,
        attributes: { 'db.query.text': statement },
      };
      tracer.startSpan('statement', options, trace.setSpan(context.active(), parent)).end(end);
    },
    'gribo:request:end': (event) => {
      const { endpoint, status, rows, statements } = event as RequestEvent;
      const span = spans.get(event as object);
      if (span === undefined) return;
      if (endpoint !== null) span.updateName(endpoint);
      span.setAttributes({
        'http.response.status_code': status ?? 0,
        'gribo.rows': rows ?? 0,
        'gribo.statements': statements,
      });
      if (status !== null && status >= 500) span.setStatus({ code: SpanStatusCode.ERROR });
      span.end();
    },
  };
  for (const [name, hear] of Object.entries(heard)) subscribe(name, hear);
  return () => {
    for (const [name, hear] of Object.entries(heard)) unsubscribe(name, hear);
  };
};
