import { serve } from '@gribo/http';
import { expect } from 'chai';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases } from '../testing/databases.js';
import { fillTraps, makeTraps, trap, traps } from '../testing/trap.js';

const cursorOf = (...values: unknown[]): string =>
  `sort=${encodeURIComponent(String(values[0]))}&after=${Buffer.from(JSON.stringify(values)).toString('base64url')}`;

/** What was answered with 500, or with another row, on one database or another. */
const CASES: readonly (readonly [string, string, number, unknown?])[] = [
  ['GET', '/crates/9223372036854775808', 404],
  ['GET', '/crates/18446744073709551615', 404],
  ['DELETE', '/crates/18446744073709551615', 404],
  ['PATCH', '/crates/18446744073709551615', 404, { label: 'x' }],
  ['GET', '/crates/-1', 200],
  ['GET', '/crates?small=99999', 200],
  ['GET', '/crates?wholeFrom=99999999999', 200],
  ['GET', '/crates?seenFrom=0000-01-01T00:00:00Z', 200],
  ['GET', '/crates?seenTo=9999-12-31T23:59:59.999Z', 200],
  ['GET', '/crates?dayFrom=0000-01-01', 200],
  ['GET', '/crates?day=2026-02-30', 400],
  ['GET', '/crates?singleFrom=1e300', 200],
  ['GET', `/crates?labels=${Array.from({ length: 999 }, () => 'a').join()}`, 200],
  ['GET', `/crates?seenAny=${Array.from({ length: 300 }, () => '2026-03-01T06:30:00Z').join()}`, 200],
  ['GET', `/crates?narrow=${encodeURIComponent('🚢')}`, 200],
  ['GET', `/crates?narrowed=${encodeURIComponent('🚢')}`, 200],
  ['GET', '/crates?kind=unheard', 200],
  ['GET', `/crates?${cursorOf('tag', 'no uuid', '1')}`, 400],
  ['GET', `/crates?${cursorOf('exact', 'x', '1')}`, 400],
  ['GET', `/crates?${cursorOf('day', '2026-13-45', '1')}`, 400],
  ['GET', `/crates?${cursorOf('day', '2026-02-30', '1')}`, 200],
  ['GET', `/crates?${cursorOf('clock', '99:99', '1')}`, 400],
  ['GET', `/crates?${cursorOf('seen', '-32769', '1')}`, 400],
  ['GET', '/berthings/99999/0000-01-01', 404],
  ['GET', '/berthings/1/2026-03-01', 200],
];

/** Values that no column of the trap holds on any server, by the member that they are sent in. */
const UNHELD: Readonly<Record<string, unknown>> = {
  small: 32768,
  whole: 2147483648,
  large: '9223372036854775808',
  exact: '9999999.00',
  label: 'x'.repeat(21),
  seal: undefined,
};

for (const { name, variable, open } of databases) {
  describe(`values that ${name} cannot hold${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    const told: object[] = [];
    let handle: ReturnType<typeof serve>;
    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTraps(kysely);
      await fillTraps(kysely);
      const log = { error: (about: object) => void told.push(about) };
      handle = serve(traps, { store: sqlStore(trap, kysely), log });
    });
    after(() => kysely?.destroy());

    const ask = async (method: string, path: string, body?: unknown) => {
      const sent = body === undefined ? {} : { body: JSON.stringify(body) };
      const headers = { 'content-type': 'application/json' };
      const response = await handle(new Request(`http://t.test${path}`, { method, headers, ...sent }));
      const text = await response.text();
      const json = (text === '' ? {} : JSON.parse(text)) as Record<string, unknown>;
      return { status: response.status, text, json };
    };

    it('are never looked for', async () => {
      for (const [method, path, expected, body] of CASES) {
        const { status, text } = await ask(method, path, body);
        expect(status, `${method} ${path.slice(0, 100)} ${text.slice(0, 200)}`).to.equal(expected);
      }
      expect(told).to.deep.equal([]);
    });

    it('are an issue with its pointer where a body has them', async () => {
      // It keeps any length and number that it is given, but those of more than 64 bits.
      const isLoose = name === 'SQLite';
      for (const [member, value] of Object.entries(UNHELD)) {
        if (value === undefined || (isLoose && member !== 'large')) continue;
        for (const [method, path, body] of [
          ['POST', '/crates', { id: '900', [member]: value }],
          ['PATCH', '/crates/2', { [member]: value }],
        ] as const) {
          const { status, json, text } = await ask(method, path, body);
          expect(status, text).to.equal(422);
          expect(json['errors'], text).to.have.nested.property('[0].pointer', `/${member}`);
        }
      }
      expect((await ask('GET', '/crates/900')).status).to.equal(404);
    });

    it('find what lies on their side, where they are compared by more or less', async () => {
      const total = async (query: string): Promise<unknown> =>
        ((await ask('GET', `/crates?${query}`)).json['page'] as Record<string, unknown>)['total'];
      expect(await total('wholeFrom=-99999999999')).to.equal(4);
      expect(await total('wholeTo=99999999999')).to.equal(4);
      expect(await total('wholeTo=-99999999999')).to.equal(0);
      expect(await total('largeTo=9223372036854775808')).to.equal(4);
      expect(await total('seenTo=9999-12-31T23:59:59.999Z')).to.equal(4);
      expect(await total('smalls=99999,10,20')).to.equal(2);
      expect(await total('smalls=99999')).to.equal(0);
    });

    it('have a place in an order all the same', async () => {
      const ids = async (...values: unknown[]): Promise<unknown> => {
        const { json, text } = await ask('GET', `/crates?${cursorOf(...values)}`);
        expect(json, text).to.have.property('items');
        return (json['items'] as { id: string }[]).map(({ id }) => id);
      };
      expect(await ids('small', -99999, '1')).to.deep.equal(['3', '1', '2']);
      expect(await ids('small', 99999, '1')).to.deep.equal(['-1', '5']);
      expect(await ids('small desc', 99999, '1')).to.deep.equal(['4', '2', '1']);
      expect(await ids('small desc', -99999, '1')).to.deep.equal(['-1', '5']);
    });
  });
}
