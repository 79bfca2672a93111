import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { serve, standardFormats } from '@gribo/http';
import { createConfig, lintFromString } from '@redocly/openapi-core';
import { Validator } from '@seriousme/openapi-schema-validator';
import type { ValidateFunction } from 'ajv/dist/2020.js';
import { expect } from 'chai';
import { jsonSchema, memoryStore, openApi, type Store, samples, storeFor } from 'gribo';
import {
  answers,
  type ColumnPlan,
  comparison,
  type EndpointPlan,
  type LinkPlan,
  type StoreCondition,
} from 'gribo/kit';
import { ajvOf } from '../../../packages/gribo/src/testing/ajv.js';
import config from '../gribo.config.js';
import { harbour } from './api.js';
import { NOW } from './data.js';
import { handlers } from './handlers.js';
import { db } from './model.js';
import { harbourStore } from './store.js';

type Body = Parameters<typeof jsonSchema>[0];

describe('the OpenAPI document of the harbour', () => {
  const document = (audience?: string | null, specification: '3.1' | '3.2' = '3.1') =>
    openApi(harbour, {
      specification,
      formats: standardFormats,
      formatParameter: true,
      examples: memoryStore(db, samples(db)),
      info: { description: 'Made up.', license: { name: 'MIT', identifier: 'MIT' } },
      servers: [{ url: 'http://127.0.0.1:8080' }],
      securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
      security: [{}, { token: [] }],
      ...(audience === undefined ? {} : { audience }),
    });

  const all = [undefined, null, ...harbour.audiences];
  for (const [audience, specification] of all.flatMap((one) => [
    [one, '3.1'] as const,
    [one, '3.2'] as const,
  ])) {
    const whom = audience === undefined ? 'for all' : `for ${audience ?? 'no audience'}`;
    it(`of OpenAPI ${specification} is valid for two validators, ${whom}`, async () => {
      const made = document(audience, specification);
      const { valid, errors } = await new Validator().validate(JSON.parse(JSON.stringify(made)));
      expect(valid, JSON.stringify(errors)).to.equal(true);
      const config = await createConfig({ extends: ['recommended-strict'] });
      const problems = await lintFromString({
        source: JSON.stringify(made),
        config,
        absoluteRef: '/openapi.json',
      });
      expect(problems.map(({ ruleId, message }) => `${ruleId}: ${message}`)).to.deep.equal([]);
    });
  }

  it('is the one that is kept in the repository: what changes in it is seen before it is sent', () => {
    const made = openApi(harbour, {
      formats: standardFormats,
      examples: memoryStore(db, samples(db, config.samples)),
      ...config.openApi,
    });
    const kept = JSON.parse(
      readFileSync(fileURLToPath(new URL('../generated/openapi.json', import.meta.url)), 'utf8'),
    );
    // Where and in which edition it is served, gribo build adds.
    const { info: _info, servers: _servers, ...rest } = JSON.parse(JSON.stringify(made));
    expect(kept, 'npm run generate -w examples/harbour').to.deep.include(rest);
  });

  it('has examples that are valid by their own schemas', () => {
    const text = JSON.stringify(document()).replaceAll('#/components/schemas/', '#/$defs/');
    const { paths, components } = JSON.parse(text) as { paths: object; components: { schemas: object } };
    const ajv = ajvOf();
    ajv.addVocabulary(['x-audiences']);
    let checked = 0;
    const walk = (value: unknown, path: string): void => {
      if (typeof value !== 'object' || value === null) return;
      const { schema, examples = {}, example } = value as Media;
      const shown = Object.values(examples).map((one) => one.value);
      if (schema !== undefined) {
        for (const one of example === undefined ? shown : [...shown, example]) {
          const validate = ajv.compile({ ...schema, $defs: components.schemas });
          expect(validate(one), `${path}: ${JSON.stringify(validate.errors)}`).to.equal(true);
          checked++;
        }
        return;
      }
      for (const [name, inner] of Object.entries(value)) walk(inner, `${path} ${name}`);
    };
    walk(paths, '');
    expect(checked).to.be.above(40);
  });
});

/** A media type of an OpenAPI document. */
interface Media {
  readonly schema?: object;
  readonly examples?: Readonly<Record<string, { readonly value: unknown }>>;
  readonly example?: unknown;
}

/** An agent of the demo: its operator has vessels and calls. */
const AGENT = { audience: 'agent', user: 'lantern', operatorId: 2 } as const;

describe('every response of the harbour', () => {
  let store: Store;
  before(async () => {
    store = await harbourStore();
  });
  after(async () => store.close?.());

  const ajv = ajvOf();
  const validators = new Map<string, ValidateFunction>();

  /** Checks a body against the closed schema of its endpoint and audience. */
  const check = (endpoint: EndpointPlan, audience: string | null, sent: unknown): void => {
    const key = `${endpoint.name} ${audience}`;
    const situation = { endpoint: endpoint.name, ...(audience === null ? {} : { audience }) };
    const body = { plan: endpoint.returns } as unknown as Body;
    const validate = validators.get(key) ?? ajv.compile(jsonSchema(body, situation, { closed: true }));
    validators.set(key, validate);
    expect(validate(sent), `${key}: ${JSON.stringify(validate.errors)}`).to.equal(true);
  };

  const vessel = {
    imoNumber: '7654321',
    name: 'Merel "Two"',
    kind: 'tug',
    flag: 'QM',
    builtYear: 1999,
    size: { length: 30.5, draught: 3, tonnage: '99.5' },
    operator: { id: AGENT.operatorId },
  };
  const { imoNumber, ...again } = vessel;
  const operatorId = db.vessel.entity.columns.find(({ name }) => name === 'operatorId') as ColumnPlan;
  const own = comparison(operatorId, 'equals', AGENT.operatorId);
  /** What the agent may change, by entity. */
  const OWN: Readonly<Record<string, readonly StoreCondition[]>> = {
    vessel: [own],
    portCall: [{ ...own, left: { ...own.left, path: [db.portCall.links.get('vessel') as LinkPlan] } }],
  };
  const call = {
    id: '0f7f5b52-3c5e-4b5e-9b57-0d8d4b3a5a11',
    vessel: { id: 26 },
    eta: '2026-04-01T06:00:00Z',
    hazardous: false,
  };
  const {
    id: _id,
    vessel: _vessel,
    ...anew
  } = {
    ...call,
    berth: { id: null },
    status: 'announced',
    etd: null,
    hazardous: true,
    hazard: { detail: 'Paint.' },
    dues: '12.50',
    remarks: null,
    embargoUntil: '2030-01-01T00:00:00Z',
    cargo: [],
  };

  /** What is sent to the endpoints that take something, in an order in which all of it succeeds. */
  const BODIES: Readonly<Record<string, object>> = {
    'vessels.create': vessel,
    'vessels.replace': { ...again, callSign: null, masterPhone: '+00 555 1', notes: 'x'.repeat(200) },
    'vessels.amend': { name: 'Merel Three' },
    'portCalls.create': call,
    'portCalls.replace': anew,
    'portCalls.amend': { remarks: 'Late.' },
  };

  /** Keys of rows that a caller sees, or may change. */
  const keysOf = async (
    endpoint: EndpointPlan,
    audience: string | null,
    isChanging: boolean,
  ): Promise<readonly string[]> => {
    const { entity, key } = { entity: endpoint.entity, key: endpoint.entity.key[0] ?? 'id' };
    const plan = {
      entity: entity.name,
      table: entity.table,
      key: entity.key,
      columns: entity.columns,
      links: [],
      figures: [],
    };
    const seen = storeFor(store, harbour, { ...AGENT, audience }, NOW);
    const where = isChanging ? (OWN[entity.name] ?? []) : [];
    const rows = await seen.list(plan, { limit: 30, where });
    return rows.map((row) => String((row as Record<string, unknown>)[key]));
  };

  for (const audience of [null, ...harbour.audiences]) {
    for (const endpoint of harbour.plan.endpoints) {
      // What commands send is tried where they are.
      const isCommand = endpoint.operation === null && endpoint.method !== 'GET';
      if (endpoint.returns === null || endpoint.sends === 'file' || isCommand) continue;
      if (!answers(endpoint, audience)) continue;
      it(`${endpoint.name} for ${audience ?? 'no audience'}`, async () => {
        const handle = serve(harbour, {
          store,
          handlers,
          unnamed: 'newest',
          now: () => NOW,
          caller: () => ({ ...AGENT, audience: audience as 'public' | null }),
        });
        const ask = async (path: string, init: RequestInit = {}): Promise<unknown> => {
          const response = await handle(new Request(`http://harbour.test${path}`, init));
          const text = await response.text();
          expect(response.status, text).to.be.within(200, 201);
          return JSON.parse(text);
        };
        const { method, path, operation, parameters, under } = endpoint;
        const body = BODIES[endpoint.name];
        const headers = {
          'content-type': method === 'PATCH' ? 'application/merge-patch+json' : 'application/json',
        };
        const send = body === undefined ? {} : { method, headers, body: JSON.stringify(body) };
        if (operation === 'create')
          return check(endpoint, audience, await createAndRemove(endpoint, ask, send));
        const keys =
          parameters.length === 0
            ? ['']
            : await keysOf(
                under === null ? endpoint : { ...endpoint, entity: under.link.target },
                audience,
                body !== undefined,
              );
        const with_ =
          endpoint.name.startsWith('portCalls.') && operation !== 'list'
            ? '?with=cargo'
            : endpoint.name === 'vessels.list'
              ? '?with=operator&size=100'
              : '';
        for (const key of body === undefined ? keys : keys.slice(0, 1)) {
          const at = path.replace(/\{[^}]*\}/, encodeURIComponent(key));
          for (const query of new Set(['', with_])) check(endpoint, audience, await ask(at + query, send));
        }
      });
    }
  }

  const createAndRemove = async (
    endpoint: EndpointPlan,
    ask: (path: string, init?: RequestInit) => Promise<unknown>,
    send: RequestInit,
  ): Promise<unknown> => {
    const sent = await ask(endpoint.path, send);
    const { id } = sent as { id: string | number };
    await store.remove(endpoint.entity.name, [id]);
    return sent;
  };
});
