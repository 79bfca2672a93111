import { serve } from '@gribo/http';
import { openDatabase, sqlStore } from '@gribo/sql';
import { propagation, trace } from '@opentelemetry/api';
import {
  BasicTracerProvider,
  InMemorySpanExporter,
  SimpleSpanProcessor,
} from '@opentelemetry/sdk-trace-base';
import { expect } from 'chai';
import { api, collection, list, shape } from 'gribo';
import { sql } from 'kysely';
import { db } from './examples/fleet.js';
import { traceRequests } from './examples/tracing.js';

const Operator = shape(db.operator, ({ id, name }) => ({ id, name }));
const fleet = api({
  title: 'Fleet',
  version: '1',
  endpoints: { operators: collection('/operators', db.operator, { list: list(Operator), read: Operator }) },
});

/** The header of the W3C's Trace Context, as a service in front of this one sends it. */
const PARENT = { trace: '0af7651916cd43dd8448eb211c80319c', span: 'b7ad6b7169203331' };

describe('the traces of the documentation', () => {
  it('have a span for each request, in the one that its header names, and in it one for each statement', async () => {
    const exporter = new InMemorySpanExporter();
    const provider = new BasicTracerProvider({ spanProcessors: [new SimpleSpanProcessor(exporter)] });
    // What OpenTelemetry's own package for the header does, so far as it is needed.
    propagation.setGlobalPropagator({
      inject: () => undefined,
      fields: () => ['traceparent'],
      extract: (within, carrier: Record<string, string>) => {
        const [, traceId = '', spanId = ''] = carrier['traceparent']?.split('-') ?? [];
        return traceId === ''
          ? within
          : trace.setSpanContext(within, { traceId, spanId, traceFlags: 1, isRemote: true });
      },
    });
    const end = traceRequests(provider.getTracer('docs'));
    const kysely = await openDatabase('pglite:memory://');
    await sql`create table operator (id integer primary key, name text not null, phone text, parent_id integer)`.execute(
      kysely,
    );
    await sql`insert into operator values (1, 'Lantern Bay', null, null)`.execute(kysely);
    const store = sqlStore(db, kysely);
    const handle = serve(fleet, { store, log: { error: () => undefined } });
    const ask = (path: string, headers = {}) => handle(new Request(`http://f.test${path}`, { headers }));
    await ask('/operators/1', { traceparent: `00-${PARENT.trace}-${PARENT.span}-01` });
    await ask('/operators/99');
    end();
    await ask('/operators/1');
    propagation.disable();
    await store.close?.();

    const spans = exporter.getFinishedSpans();
    const [statement, request, , missing] = spans;
    expect(spans.map(({ name }) => name)).to.deep.equal([
      'statement',
      'operators.read',
      'statement',
      'operators.read',
    ]);
    expect(request?.parentSpanContext?.spanId).to.equal(PARENT.span);
    expect(request?.spanContext().traceId).to.equal(PARENT.trace);
    expect(request?.attributes).to.include({
      'http.request.method': 'GET',
      'http.response.status_code': 200,
      'url.path': '/operators/1',
      'gribo.rows': 1,
      'gribo.statements': 1,
    });
    expect(statement?.parentSpanContext?.spanId).to.equal(request?.spanContext().spanId);
    expect(statement?.attributes['db.query.text']).to.match(/^select .*\sfrom "operator"/s);
    expect(missing?.attributes['http.response.status_code']).to.equal(404);
  });
});
