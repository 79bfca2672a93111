import { createServer } from 'node:http';
import { expect } from 'chai';
import express from 'express';
import fastify from 'fastify';
import { api, callerOf, collection, equals, integer, list, memoryStore, rowRule, shape } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { fastifyRoutes, hostRequest, nodeListener, Problem, serve } from '../index.js';
import { hosted } from '../testing/hosted.js';

const caller = callerOf({ operatorId: integer() });
const Name = shape(stock.vessel, (v) => ({ id: v.id, name: v.name }));
const fleet = api({
  title: 'Fleet',
  version: '1',
  caller,
  rows: [rowRule(stock.vessel, (v) => equals(v.operatorId, caller.operatorId))],
  endpoints: { vessels: collection('/vessels', stock.vessel, { list: list(Name) }) },
});

interface WithUser {
  readonly user?: { readonly operatorId: number };
}

const handle = serve(fleet, {
  store: memoryStore(stock, stockRows as never),
  caller: (request) => {
    const user = hostRequest<WithUser>(request)?.user;
    if (user === undefined) throw new Problem(401);
    return user;
  },
});

const userOf = (header: unknown): WithUser['user'] =>
  typeof header === 'string' ? { operatorId: Number(header) } : undefined;

const names = async (port: number, operator: string | null): Promise<unknown> => {
  const headers = operator === null ? {} : { 'x-operator': operator };
  const response = await fetch(`http://127.0.0.1:${port}/vessels`, { headers });
  const body = (await response.json()) as { name: string }[];
  return response.ok ? body.map(({ name }) => name) : response.status;
};

const own = ['Anselma', 'Evening Tern'];

describe('the request of a host', () => {
  it('has what middleware of Express put on it', async () => {
    const app = express();
    app.use((request, _response, next) => {
      Object.assign(request, { user: userOf(request.headers['x-operator']) });
      next();
    });
    app.use(nodeListener(handle));
    const at = await hosted(createServer(app));
    expect(await names(at.port, '2')).to.deep.equal(own);
    expect(await names(at.port, '9')).to.deep.equal([]);
    expect(await names(at.port, null)).to.equal(401);
    await at.close();
  });

  it('has what hooks of Fastify put on it', async () => {
    const app = fastify();
    app.decorateRequest('user');
    app.addHook('onRequest', async (request) => {
      Object.assign(request, { user: userOf(request.headers['x-operator']) });
    });
    await app.register(fastifyRoutes(handle));
    await app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = app.server.address() as { port: number };
    expect(await names(port, '2')).to.deep.equal(own);
    expect(await names(port, null)).to.equal(401);
    await app.close();
  });

  it('is null where there is none', () => {
    expect(hostRequest(new Request('http://f.test/'))).to.equal(null);
  });
});
