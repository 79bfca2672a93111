import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { serve, standardFormats } from '@gribo/http';
import { expect } from 'chai';
import { jsonSchema, openApi } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import { APIS, type Described } from './apis.js';
import { counted } from './counts.js';
import { HOME, load, programOf, run } from './load.js';

const CACHE = join(HOME, '.cache');

const documentOf = ({ api, store }: Described) =>
  openApi(api, {
    formats: standardFormats,
    examples: store,
    info: { description: 'Made up.', contact: { name: 'Nobody' } },
    servers: [{ url: 'http://127.0.0.1:8080' }],
  });

describe('documents, read by validators of others', () => {
  before(() => {
    mkdirSync(CACHE, { recursive: true });
    writeFileSync(
      join(CACHE, 'ruleset.yaml'),
      'extends: ["spectral:oas"]\nrules:\n  operation-description: off\n',
    );
    for (const [name, described] of Object.entries(APIS))
      writeFileSync(join(CACHE, `${name}.json`), JSON.stringify(documentOf(described)));
  });

  for (const [name, described] of Object.entries(APIS)) {
    it(`${name}: swagger-parser`, async function () {
      interface Parser {
        readonly default: { validate(document: object): Promise<object> };
      }
      const parser = await load<Parser>('@apidevtools/swagger-parser');
      if (parser === null) return this.skip();
      await parser.default.validate(JSON.parse(JSON.stringify(documentOf(described))));
      counted('documents, validated by swagger-parser', 1);
    });

    it(`${name}: Spectral`, async function () {
      const spectral = programOf('spectral');
      if (spectral === null) return this.skip();
      const args = ['lint', '--ruleset', join(CACHE, 'ruleset.yaml'), '--format', 'json', '--quiet'];
      const { out } = await run(spectral, [...args, join(CACHE, `${name}.json`)]);
      const found = JSON.parse(out.slice(out.indexOf('['))) as {
        code: string;
        message: string;
        path: string[];
      }[];
      expect(found.map(({ code, message, path }) => `${code}: ${message} ${path.join('.')}`)).to.deep.equal(
        [],
      );
      counted('documents, linted by Spectral', 1);
    });

    it(`${name}: responses by their schemas, by another validator`, async function () {
      interface Cfworker {
        readonly Validator: new (
          schema: object,
          draft: '2020-12',
          short: boolean,
        ) => { validate(value: unknown): { valid: boolean; errors: readonly object[] } };
      }
      const cfworker = await load<Cfworker>('@cfworker/json-schema');
      if (cfworker === null) return this.skip();
      const { api, store, handlers = {} } = described;
      const handle = serve(api as never, { store, handlers });
      let checked = 0;
      for (const endpoint of api.plan.endpoints as readonly EndpointPlan[]) {
        if (endpoint.method !== 'GET' || endpoint.parameters.length > 0 || endpoint.returns === null)
          continue;
        const schema = jsonSchema(
          { plan: endpoint.returns } as never,
          { endpoint: endpoint.name },
          { closed: true },
        );
        const response = await handle(new Request(`http://h.test${endpoint.path}`));
        if (response.status === 403) continue;
        const { valid, errors } = new cfworker.Validator(structuredClone(schema), '2020-12', false).validate(
          await response.json(),
        );
        expect(valid, `${endpoint.name} ${JSON.stringify(errors)}`).to.equal(true);
        checked++;
        counted('responses, validated by @cfworker/json-schema', 1);
      }
      expect(checked).to.be.above(0);
    });
  }
});
