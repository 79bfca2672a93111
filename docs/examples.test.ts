import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as drizzle from '@gribo/drizzle';
import * as http from '@gribo/http';
import * as sql from '@gribo/sql';
import * as testing from '@gribo/testing';
import { expect } from 'chai';
import { transformSync } from 'esbuild';
import * as gribo from 'gribo';
import * as kit from 'gribo/kit';
import { Kysely } from 'kysely';
import { harbour } from '../examples/harbour/src/api.js';
import { handlers } from '../examples/harbour/src/handlers.js';
import { db } from '../examples/harbour/src/model.js';
import * as conversions from '../packages/gribo/src/declare/conversions/conversions.js';

const DOCS = fileURLToPath(new URL('.', import.meta.url));
const ROOT = join(DOCS, '..');
const CACHE = join(ROOT, '.cache', 'docs');

/** The TypeScript of a page: all its blocks as one module, which reports what each marked line gives. */
const moduleOf = (page: string): string => {
  const blocks = [...page.matchAll(/```ts\n(.*?)```/gs)].map(([, code]) => code ?? '').join('\n');
  const checked = blocks.replace(
    /^(?!\/\/)(.+?); \/\/ => (.+)$/gm,
    (_line, expression: string, expected: string) =>
      `found.push([${JSON.stringify(expected)}, ${expression}]);`,
  );
  return `${checked.replaceAll("'./examples/", `'${DOCS}examples/`)}\nexport {};\n`;
};

const shown = (value: unknown): string =>
  typeof value === 'string' ? value.replaceAll('\r', '\\r').replaceAll('\n', '\\n') : JSON.stringify(value);

const pages = [
  ...readdirSync(DOCS)
    .filter((file) => file.endsWith('.md'))
    .map((file) => join(DOCS, file)),
  join(ROOT, 'README.md'),
  join(ROOT, 'packages/gribo/README.md'),
  join(ROOT, 'packages/http/README.md'),
  join(ROOT, 'packages/sql/README.md'),
  join(ROOT, 'packages/drizzle/README.md'),
  join(ROOT, 'packages/testing/README.md'),
];

describe('the examples of the documentation', () => {
  before(() => {
    rmSync(CACHE, { recursive: true, force: true });
    mkdirSync(CACHE, { recursive: true });
  });

  for (const path of pages) {
    const page = readFileSync(path, 'utf8');
    const source = moduleOf(page);
    const marks = source.match(/found\.push\(/g)?.length ?? 0;
    if (marks === 0) continue;
    it(`${path.slice(ROOT.length)}: ${marks} results`, async () => {
      const file = join(CACHE, `${path.slice(ROOT.length).replaceAll(/\W+/g, '-')}.ts`);
      writeFileSync(file, `export const found: [string, unknown][] = [];\n${source}`);
      const { found } = (await import(file)) as { found: [string, unknown][] };
      for (const [expected, value] of found) {
        const text = shown(value);
        // A string result may be written with its quotes or, where it is JSON itself, without.
        expect(
          text === expected || JSON.stringify(value) === expected,
          `${text} is not ${expected}`,
        ).to.equal(true);
      }
    });
  }

  it('compile, as strictly as most programs do', () => {
    const files = readdirSync(CACHE).filter((file) => file.endsWith('.ts'));
    expect(files).to.have.length.above(10);
    const compilerOptions = {
      strict: true,
      noEmit: true,
      target: 'es2023',
      module: 'nodenext',
      lib: ['es2023', 'dom', 'dom.iterable'],
      customConditions: ['@gribo/source'],
      skipLibCheck: true,
      types: ['node'],
    };
    writeFileSync(join(CACHE, 'tsconfig.json'), JSON.stringify({ compilerOptions, files }));
    const { stdout } = spawnSync(join(ROOT, 'node_modules/.bin/tsc'), ['-p', CACHE, '--pretty', 'false'], {
      encoding: 'utf8',
    });
    expect(stdout).to.equal('');
  });

  it('has a page for everything that is exported', () => {
    const all = pages.map((path) => readFileSync(path, 'utf8')).join('\n');
    const missing = [
      ...Object.keys(gribo),
      ...Object.keys(kit),
      ...Object.keys(http),
      ...Object.keys(sql),
      ...Object.keys(drizzle),
      ...Object.keys(testing),
    ].filter((name) => !new RegExp(`\\b${name}\\b`).test(all));
    expect(missing).to.deep.equal([]);
  });
});

/** Each example in a doc comment, with the names that stand for rows. */
const docExamples = (folder: string): { readonly where: string; readonly code: string }[] => {
  const source = join(ROOT, folder);
  const files = readdirSync(source, { recursive: true, encoding: 'utf8' }).filter(
    (file) => file.endsWith('.ts') && !/\.(test|types)\.ts$/.test(file),
  );
  return files.flatMap((file) => {
    const comments = readFileSync(join(source, file), 'utf8').matchAll(/\/\*\*(.*?)\*\//gs);
    return [...comments].flatMap(([, comment = '']) => {
      const text = comment.replaceAll(/^\s*\* ?/gm, '');
      const [, code] = /@example\s+(.*?)(?=\n@|$)/s.exec(text.trim()) ?? [];
      return code === undefined ? [] : [{ where: file, code: code.trim() }];
    });
  });
};

const definitions = {
  operator: gribo.entity('operator', { id: gribo.integer().key() }),
  vessel: gribo.entity('vessel', { id: gribo.integer().key(), operatorId: gribo.integer().nullable() }),
};

/** Which entity the letters of the examples stand for. */
const ROWS = {
  v: db.vessel,
  o: db.operator,
  c: db.portCall,
  b: db.berth,
  p: db.pilot,
  q: db.quay,
  i: db.cargoItem,
} as const;

const MEMBERS = [
  'derive',
  'orElse',
  'first',
  'count',
  'at',
  'given',
  'unseal',
  'unlessNull',
  'deprecated',
  'constant',
];

/** Whether an example is a member, to be used in a shape: it reads a row and compares nothing. */
const isMember = (code: string): boolean =>
  new RegExp(`^(\\w+: )?(?:${[...MEMBERS, ...Object.keys(conversions)].join('|')}|\\w+Line)\\(`).test(code);

describe('the examples of doc comments', () => {
  const run = (code: string, names: Readonly<Record<string, unknown>>): unknown => {
    const isProperty = /^\w+: /.test(code);
    const wrapped = isProperty ? `return ({ ${code.split(' // ')[0]} });` : code;
    const withResult =
      isProperty || /^(const |try |type |import |\/\/)/.test(code) || code.includes('\n')
        ? wrapped
        : `return ${wrapped.replace(/ \/\/ .*$/, '')}`;
    const { code: javascript } = transformSync(`function example() { ${withResult}\n }`, { loader: 'ts' });
    return new Function(...Object.keys(names), `${javascript}; return example();`)(...Object.values(names));
  };

  const shapes = () => {
    const { shape, list } = gribo;
    const OperatorBrief = shape(db.operator, ({ id, name }) => ({ id, name }));
    const PortCallLine = shape(db.portCall, ({ id, eta }) => ({ id, eta }));
    const VesselCard = shape(db.vessel, ({ id, name, callSign, operatorId }) => ({
      id,
      name,
      callSign,
      operatorId,
    }));
    return { OperatorBrief, PortCallLine, VesselCard, VesselDetail: VesselCard, list };
  };

  const examples = docExamples('packages/gribo/src');

  it('are many', () => expect(examples.length).to.be.above(50));

  for (const { where, code } of examples) {
    it(`${where}: ${code.split('\n')[0]}`, () => {
      const letter = /\b([vocbpqi])\.\w/.exec(code)?.[1] as keyof typeof ROWS | undefined;
      const bound = ROWS[letter ?? 'v'];
      // Run inside a shape over that entity, so that members are of its row and mistakes are told.
      gribo.shape(bound as typeof db.vessel, (row) => {
        const result = run(code, {
          ...gribo,
          ...kit,
          ...shapes(),
          ...definitions,
          db,
          harbour,
          entities: definitions,
          links: {},
          vessels: [],
          rows: [],
          store: gribo.memoryStore(db),
          change: {},
          [letter ?? 'v']: row,
          isOver: () => true,
          log: () => undefined,
          report: () => undefined,
          NewVessel: gribo.input(db.vessel, (v) => ({ imoNumber: v.imoNumber, name: v.name })),
          write: gribo.writer(gribo.list(shapes().VesselCard)),
          vesselList: gribo.endpoint('GET /vessels', {
            from: db.vessel,
            returns: gribo.list(shapes().VesselCard),
          }),
        });
        const { id } = row;
        return (
          isMember(code) ? { id, inner: /^\w+: /.test(code) ? { ...(result as object) } : result } : { id }
        ) as never;
      });
    });
  }
});

describe('the examples of doc comments about HTTP, databases and tests', () => {
  // One embedded database for all examples: each would take seconds to start.
  let opened: Promise<sql.AnyKysely> | null = null;
  const openDatabase = (url: string): Promise<sql.AnyKysely> => {
    opened ??= sql.openDatabase(url);
    return opened;
  };
  after(async () => {
    await (await opened)?.destroy();
    await server.close();
  });

  const app = { get: () => undefined, register: () => undefined };
  const AsyncFunction = (async () => undefined).constructor as FunctionConstructor;

  const rows = gribo.samples(db, { seed: 'docs', rows: { vessel: 3 } });
  const server = testing.testServer(harbour, db, { rows, handlers });

  const examples = ['http', 'sql', 'testing'].flatMap((name) => docExamples(`packages/${name}/src`));
  for (const { where, code } of examples) {
    it(`${where}: ${code.split('\n')[0]}`, async () => {
      const names = {
        ...http,
        ...sql,
        ...testing,
        memoryStore: gribo.memoryStore,
        rows,
        server,
        make: testing.factory(db),
        response: await server.ask('GET /vessels/3', {
          as: { audience: 'agent', user: 'lantern', operatorId: 2 },
        }),
        openDatabase,
        kysely: await openDatabase('pglite:memory://'),
        Kysely,
        // It is made, not used: nothing is to be started for it.
        PGlite: class {},
        createPool: () => ({}),
        uri: 'mysql://root@127.0.0.1/test',
        pg: { Pool: class {} },
        database: {},
        db,
        harbour,
        store: gribo.memoryStore(db),
        app,
        createServer: () => ({ listen: () => undefined }),
        audienceOf: () => 'public',
        request: new Request('http://harbour.test/vessels', { method: 'POST', body: '{}' }),
      };
      const { code: javascript } = transformSync(`async function example() { ${code}\n }`, { loader: 'ts' });
      const run = AsyncFunction(...Object.keys(names), `${javascript}; return example();`);
      // An example may throw, to show how; nothing else may go wrong in it.
      const failure: unknown = await run(...Object.values(names)).then(
        () => null,
        (error: unknown) => error,
      );
      expect(failure === null || failure instanceof gribo.GriboError, String(failure)).to.equal(true);
    });
  }
});
