import { expect } from 'chai';
import { type AnyApi, samples } from 'gribo';
import { answers, type EndpointPlan, sampleFacts } from 'gribo/kit';
import { harbour } from '../../../../examples/harbour/src/api.js';
import { handlers } from '../../../../examples/harbour/src/handlers.js';
import { db } from '../../../../examples/harbour/src/model.js';
import { assertAnswer, assertNothingSealed, testServer } from '../index.js';
import { isObject } from './value-kind.js';

const rows = samples(db, { seed: 'answers', rows: { vessel: 8, portCall: 12, cargoItem: 12 } });
const server = testServer(harbour, db, { rows, handlers, rowsOfHandlers: 'trust' });
const as = (audience: string | null): never => ({ ...sampleFacts(harbour.plan.caller), audience }) as never;

/** The route of an endpoint that reads, with the key of a row; null where a key cannot be told from the path. */
const routeOf = (endpoint: EndpointPlan): string | null => {
  if (endpoint.method !== 'GET') return null;
  const [row] = (rows[endpoint.entity.name] ?? []) as readonly Record<string, unknown>[];
  const path = endpoint.path.replace(/\{(\w+)\}/g, (_all, name: string) =>
    encodeURIComponent(String(row?.[name] ?? '')),
  );
  return `GET ${path}`;
};

const refusal = (work: () => void): string => {
  try {
    work();
  } catch (error) {
    return (error as Error).message;
  }
  return 'all is right';
};

/** One thing after the other that could be wrong with a body: each of its members gone, of another type, and one too many. */
function* mistakesIn(body: unknown): Generator<unknown> {
  if (Array.isArray(body)) {
    for (const [place, item] of body.slice(0, 2).entries())
      for (const wrong of mistakesIn(item)) yield body.with(place, wrong);
    return;
  }
  if (!isObject(body)) return;
  yield { ...body, passwordHash: 'x' };
  for (const [name, value] of Object.entries(body)) {
    yield { ...body, [name]: { nobody: 'declared this' } };
    for (const wrong of mistakesIn(value)) yield { ...body, [name]: wrong };
  }
}

describe('answers of the harbour', () => {
  after(() => server.close());

  const cells = harbour.plan.endpoints.flatMap((endpoint) =>
    [null, ...harbour.plan.audiences]
      .filter((audience) => answers(endpoint, audience) && endpoint.returns !== null)
      .map((audience) => ({ endpoint, audience, route: routeOf(endpoint) })),
  );

  it('are exactly what is declared, at every endpoint, for every audience; one change anywhere is found', async () => {
    let looked = 0;
    let changed = 0;
    for (const { endpoint, audience, route } of cells) {
      if (route === null) continue;
      const response = await server.ask(route, { as: as(audience) });
      if (response.status !== 200 || !response.headers.get('content-type')?.includes('json')) continue;
      const body: unknown = await response.json();
      assertAnswer<AnyApi, string, string>(harbour, endpoint.name, body, { audience });
      looked += 1;
      for (const wrong of mistakesIn(body)) {
        const said = refusal(() =>
          assertAnswer<AnyApi, string, string>(harbour, endpoint.name, wrong, { audience }),
        );
        expect(said, `${route} for ${audience}`)
          .to.include(`${endpoint.name}`)
          .and.match(/\n[-+!] /);
        changed += 1;
      }
    }
    expect(looked).to.be.above(20);
    expect(changed).to.be.above(700);
  });

  it('have nothing sealed in them for callers of no audience', async () => {
    for (const { audience, route } of cells) {
      if (route === null || audience !== null) continue;
      const response = await server.ask(route, { as: as(null) });
      assertNothingSealed(await response.text(), db, rows);
    }
  });

  it('say what is a problem, and leave out the rows of a list that are right', async () => {
    const refused = await server.ask('GET /vessels/99999');
    const body: unknown = await refused.json();
    expect(refusal(() => assertAnswer(harbour, 'vessels.read', body))).to.include(
      '\nIt is a problem: 404 Not Found',
    );
    const list = (await (await server.ask('GET /quays')).json()) as Record<string, unknown>[];
    const wrong = list.with(2, { ...list[2], name: undefined });
    const said = refusal(() => assertAnswer(harbour, 'quays.list', JSON.parse(JSON.stringify(wrong))));
    expect(said).to.include('- [2].name').and.not.include('[1].');
  });

  it('cannot be asked of an endpoint that sends nothing, nor for whom it does not answer', () => {
    expect(() => assertAnswer(harbour, 'vessels.remove', null, { audience: 'harbourMaster' })).to.throw(
      'it sends no JSON',
    );
    expect(() => assertAnswer(harbour, 'pilots.list', [], { audience: 'public' })).to.throw(
      'it does not answer public',
    );
    expect(() => assertAnswer<AnyApi, string>(harbour, 'vessels.raed', {})).to.throw(
      'Did you mean "vessels.read"?',
    );
  });
});
