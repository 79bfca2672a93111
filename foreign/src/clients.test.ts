import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { nodeListener, serve } from '@gribo/http';
import { expect } from 'chai';
import { openApi } from 'gribo';
import { answers } from 'gribo/kit';
import { APIS, type Described } from './apis.js';
import { counted, countLines } from './counts.js';
import { HOME, programOf, run } from './load.js';

const CACHE = join(HOME, '.cache', 'clients');

/** What a client of each API does: written against generated types, and compiled with all checks. */
const USES: Readonly<Record<string, string>> = {
  harbour: `
  const listed = await client.GET('/vessels', { params: { query: { size: 2, sort: ['name desc'], with: ['operator'] } } });
  say('listed', listed.response.status, listed.data?.items.length);
  const read = await client.GET('/vessels/{id}', { params: { path: { id: 1 } } });
  say('read', read.response.status, typeof read.data?.name);
  const made = await client.POST('/vessels', { body: { imoNumber: '7654321', name: 'Merel', kind: 'tug', flag: 'QM', builtYear: 1999, size: { length: 30.5, draught: 3, tonnage: '99.5' }, operator: { id: null } } });
  say('made', made.response.status, made.data?.name);
  const several = await client.GET('/port-calls', { params: { query: { status: ['berthed', 'sailed'] } } });
  say('several', several.response.status);
  const wrong = await client.GET('/vessels/{id}', { params: { path: { id: 999 } } });
  say('wrong', wrong.error?.status, wrong.error?.title);`,
  oddNames: `
  const listed = await client.GET('/odd-things', { params: { query: { kind: ['ключ', 'x y'] } } });
  say('listed', listed.response.status, listed.data?.every((one) => one['with space'].length > 0));
  const made = await client.POST('/odd-things', { body: { 'with space': 'ü', 'ключ': 'a "quoted"', 'da-sh': { $ref: '#/x' } } });
  say('made', made.response.status, made.data?.['da-sh'].$ref, made.data?.class);`,
  allKinds: `
  const made = await client.POST('/values', { body: { big: '9007199254740993', exact: '12.5000', flag: true, clock: '06:30', at: '2026-03-01T06:30:00Z', raw: 'AQID', any: { a: [1] } } });
  say('made', made.response.status, made.data?.big, made.data?.clock, made.data?.asText);
  const first = await client.GET('/values', { params: { query: { size: 2 } } });
  const next = await client.GET('/values', { params: { query: { size: 2, after: first.data?.page.next ?? '' } } });
  say('pages', first.data?.items.length, next.response.status);
  const [part] = (await client.GET('/parts')).data ?? [];
  if (part === undefined) throw new Error('there is no part');
  const one = await client.GET('/parts/{maker}/{number}', { params: { path: { maker: part.maker, number: part.number } } });
  say('composite', one.data?.maker === part.maker);`,
  someLists: `
  const listed = await client.GET('/lines', { params: { query: {} } });
  say('listed', listed.data?.meta.kind, Array.isArray(listed.data?.data));
  const made = await client.POST('/lines', { body: [{ said: 'a', level: 1 }, { said: 'b', level: 2 }] });
  say('made', made.response.status);
  const again = await client.GET('/lines', { params: { query: { level: 2 } } });
  say('again', (again.data?.data.length ?? 0) > 0);`,
};

const FETCHED: Readonly<Record<string, readonly string[]>> = {
  harbour: ['listed 200 2', 'read 200 string', 'made 201 Merel', 'several 200', 'wrong 404 Not Found'],
  oddNames: ['listed 200 true', 'made 201 #/x a "quoted"'],
  allKinds: ['made 201 9007199254740993 06:30:00 true', 'pages 2 200', 'composite true'],
  someLists: ['listed lines true', 'made 201', 'again true'],
};

const COMPILED = {
  strict: true,
  noUncheckedIndexedAccess: true,
  skipLibCheck: true,
  target: 'es2022',
  lib: ['es2022', 'dom', 'dom.iterable'],
  module: 'nodenext',
  moduleResolution: 'nodenext',
  types: [],
};

/** Compiles a file of a folder with all checks. @returns what the compiler says against it */
const compiled = async (folder: string, file: string): Promise<string> => {
  const config = join(folder, `tsconfig.${file}.json`);
  writeFileSync(config, JSON.stringify({ compilerOptions: COMPILED, files: [file] }));
  return (await run(join(HOME, 'node_modules', '.bin', 'tsc'), ['-p', config], '', folder)).out;
};

const open = (described: Described): Promise<{ server: Server; url: string }> =>
  new Promise((resolve) => {
    const { api, store, audience = null, handlers = {} } = described;
    const handle = serve(api as never, {
      store,
      handlers,
      caller: (() => ({ audience, user: 'office' })) as never,
    });
    const server = createServer(nodeListener(handle));
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      resolve({ server, url: `http://127.0.0.1:${port}` });
    });
  });

describe('clients that others generate', () => {
  const opened: Server[] = [];
  afterEach(() => {
    for (const server of opened.splice(0)) {
      server.close();
      server.closeAllConnections();
    }
  });
  before(() => {
    rmSync(CACHE, { recursive: true, force: true });
    for (const [name, described] of Object.entries(APIS)) {
      mkdirSync(join(CACHE, name), { recursive: true });
      writeFileSync(join(CACHE, name, 'package.json'), '{"type":"module"}');
      writeFileSync(join(CACHE, name, 'openapi.json'), JSON.stringify(openApi(described.api)));
    }
  });

  for (const [name, described] of Object.entries(APIS)) {
    const folder = join(CACHE, name);
    const document = join(folder, 'openapi.json');
    it(`${name}: openapi-typescript and openapi-fetch, compiled strictly and run`, async function () {
      const generator = programOf('openapi-typescript');
      if (generator === null) return this.skip();
      const made = await run(generator, [document, '-o', join(folder, 'schema.d.ts')], '', folder);
      expect(made.code, made.out).to.equal(0);
      const source = `import createClient from 'openapi-fetch';
import type { paths } from './schema.js';
export const use = async (baseUrl: string, say: (...parts: unknown[]) => void): Promise<void> => {
  const client = createClient<paths>({ baseUrl });${USES[name]}
};
`;
      writeFileSync(join(folder, 'use.ts'), source);
      expect(await compiled(folder, 'use.ts')).to.equal('');
      const { use } = (await import(pathToFileURL(join(folder, 'use.js')).href)) as {
        use(url: string, say: (...parts: unknown[]) => void): Promise<void>;
      };
      const { server, url } = await open(described);
      opened.push(server);
      const said: string[] = [];
      await use(url, (...parts) => said.push(parts.join(' ')));
      expect(said).to.deep.equal(FETCHED[name]);
      counted('clients by openapi-typescript and openapi-fetch', 1);
    });

    it(`${name}: orval, compiled strictly and run`, async function () {
      const generator = programOf('orval');
      if (generator === null) return this.skip();
      const { server, url } = await open(described);
      opened.push(server);
      const config = {
        api: {
          input: document,
          output: { target: 'orval.ts', client: 'fetch', baseUrl: url, override: { namingConvention: {} } },
        },
      };
      writeFileSync(join(folder, 'orval.config.mjs'), `export default ${JSON.stringify(config)};\n`);
      const made = await run(generator, ['--config', 'orval.config.mjs'], '', folder);
      expect(made.code, made.out).to.equal(0);
      expect(await compiled(folder, 'orval.ts')).to.equal('');
      const functions = (await import(pathToFileURL(join(folder, 'orval.js')).href)) as Record<
        string,
        (...given: unknown[]) => Promise<{ status: number }>
      >;
      const letters = (text: string): string => text.toLowerCase().replaceAll(/[^\p{L}\d]/gu, '');
      let called = 0;
      for (const endpoint of described.api.plan.endpoints) {
        if (endpoint.operation !== 'list' || endpoint.parameters.length > 0) continue;
        const [, list] =
          Object.entries(functions).find(([one]) => letters(one) === letters(endpoint.name)) ?? [];
        expect((await list?.())?.status, endpoint.name).to.equal(
          answers(endpoint, described.audience ?? null) ? 200 : 403,
        );
        called++;
      }
      expect(called).to.be.above(0);
      counted('clients by orval', 1);
    });
  }
});

after(() => {
  for (const line of countLines()) console.log(line);
});
