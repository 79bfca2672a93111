import { expect } from 'chai';
import { contractOf, GriboError, openApi } from 'gribo';
import { inEdition } from 'gribo/kit';
import { cases } from '../../../gribo/src/testing/cases.js';
import { serve } from '../index.js';
import { openStore, saidCaller } from '../testing/ask.js';
import { EDITIONS, type Edition, randomEditions } from '../testing/random-editions.js';
import { choosing } from '../testing/random-office.js';

const RUNS = cases(40);

/** An API, or the words of its refusal. */
const declared = (seed: number, alone: Edition | null) => {
  try {
    return { api: randomEditions(seed, alone), refused: null };
  } catch (error) {
    if (!(error instanceof GriboError) || error.code !== 'DECLARATION') throw error;
    return { api: null, refused: error.message };
  }
};

const BODIES = [
  { name: 'Mary Tern' },
  { title: 'Mary Tern', parent: 1 },
  { reason: 'storm' },
  { why: 'storm', berth: 3 },
  { id: '00000000-0000-4000-8000-000000000099', vessel: 1, eta: '2026-06-01T06:00:00Z' },
  { id: '00000000-0000-4000-8000-000000000098', vessel: 2, eta: '2026-06-01T06:00:00Z', status: 'berthed' },
  { id: 1 },
];

const PATHS = [
  ...[
    '/vessels',
    '/vessels?page=2&size=1',
    '/vessels?name=An',
    '/vessels?name=Anselma',
    '/vessels?year=1982',
  ],
  ...['/vessels?sort=name', '/vessels?sort=builtYear desc', '/vessels/1', '/vessels/3', '/vessels/4'],
  ...['/calls', '/visits', '/calls/00000000-0000-4000-8000-000000000001', '/operators', '/operators/2'],
];

const POSTS = ['/operators', '/calls', '/visits', '/vessels/1/close'];

/** What an answer is, without what says where it came from. */
const plainly = async (response: Response, base: string): Promise<object> => ({
  status: response.status,
  type: response.headers.get('content-type'),
  etag: response.headers.get('etag'),
  links: (response.headers.get('link') ?? '')
    .split(', ')
    .filter((link) => link !== '' && !link.includes('-version'))
    .map((link) => link.replace(base, '')),
  location: response.headers.get('location')?.replace(base, '') ?? null,
  text: await response.text(),
});

describe('the law of editions', () => {
  it(`each answers as an API that is declared for it alone (${RUNS} APIs)`, async () => {
    let asked = 0;
    for (let seed = 1; seed <= RUNS; seed++) {
      const together = declared(seed, null);
      const alone = EDITIONS.map((edition) => declared(seed, edition));
      const refused = alone.some(({ api }) => api === null);
      expect(
        together.api === null,
        `${seed}: ${together.refused} ${alone.map((one) => one.refused)}`,
      ).to.equal(refused);
      if (together.api === null) continue;
      for (const [i, edition] of EDITIONS.entries()) {
        const one = alone[i]?.api ?? null;
        const plan = inEdition(together.api.plan, edition);
        if (one === null || plan === undefined) throw new Error('there are as many as were declared');
        const about = `seed ${seed}, edition ${edition}`;
        const ofEdition = { ...together.api, plan };
        const { edition: _edition, ...contract } = contractOf(ofEdition) as unknown as Record<
          string,
          unknown
        >;
        expect(contract, about).to.deep.equal(contractOf(one));
        expect(openApi(ofEdition)['paths'], about).to.deep.equal(openApi(one)['paths']);
        asked += await same(together.api, one, edition, seed);
      }
    }
    expect(asked).to.be.above(RUNS * 3);
  });
});

const same = async (
  together: Parameters<typeof serve>[0],
  alone: Parameters<typeof serve>[0],
  edition: Edition,
  seed: number,
): Promise<number> => {
  const choose = choosing(seed);
  const handlers = { close: () => null } as never;
  const settings = { caller: saidCaller as never, handlers, log: { error: () => {} } };
  const base = `/${edition}`;
  const serving = [
    { handle: serve(together, { store: openStore(), ...settings }), base },
    { handle: serve(alone, { store: openStore(), ...settings }), base: '' },
  ];
  for (let i = 0; i < 12; i++) {
    const isPost = choose(3) === 0;
    const path = (isPost ? POSTS[choose(POSTS.length)] : PATHS[choose(PATHS.length)]) ?? '/';
    const who = ['agent', 'office', 'nobody'][choose(3)] ?? 'nobody';
    const body = isPost ? { body: JSON.stringify(BODIES[choose(BODIES.length)]) } : {};
    const answers = await Promise.all(
      serving.map(async ({ handle, base: start }) => {
        const request = new Request(`http://office.test${start}${path}`, {
          method: isPost ? 'POST' : 'GET',
          headers: { 'x-audience': who, 'content-type': 'application/json' },
          ...body,
        });
        return plainly(await handle(request), start);
      }),
    );
    expect(answers[0], `seed ${seed}, edition ${edition}: ${path} for ${who}`).to.deep.equal(answers[1]);
  }
  return 12;
};
