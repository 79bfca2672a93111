import { serve } from '@gribo/http';
import { expect } from 'chai';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { office, VESSEL } from '../../../http/src/testing/office.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { databases, fillTables, makeTables } from '../testing/databases.js';
import { sqlStore } from './sql-store.js';

for (const { name, variable, open } of databases) {
  describe(`an API served on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    let handle: ReturnType<typeof serve>;
    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
      handle = serve(office, { store: sqlStore(stock, kysely) });
    });
    beforeEach(() => (kysely === null ? undefined : fillTables(kysely, stock, stockRows)));
    after(() => kysely?.destroy());

    const ask = async (
      method: string,
      path: string,
      body?: unknown,
      headers: Record<string, string> = {},
    ) => {
      const sent = body === undefined ? {} : { 'content-type': 'application/json' };
      const response = await handle(
        new Request(`http://o.test${path}`, {
          method,
          headers: { ...sent, ...headers },
          ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        }),
      );
      const text = await response.text();
      const json = text === '' ? {} : (JSON.parse(text) as Record<string, unknown>);
      return { status: response.status, headers: response.headers, json };
    };
    const pointers = ({ json }: { json: Record<string, unknown> }): string[] =>
      ((json['errors'] ?? []) as { pointer: string }[]).map(({ pointer }) => pointer);

    it('tells of conflicts by members, in its own words', async () => {
      const duplicate = await ask('POST', '/operators', { name: 'Ostwick' });
      expect([duplicate.status, ...pointers(duplicate)]).to.deep.equal([409, '/name']);
      const reference = await ask('POST', '/vessels', { ...VESSEL, operator: { id: 99 } });
      expect([reference.status, ...pointers(reference)]).to.deep.equal([409, '/operator/id']);
      const needed = await ask('DELETE', '/vessels/1');
      expect([needed.status, needed.json['detail']]).to.deep.equal([409, 'Others still need it.']);
      for (const { json } of [duplicate, reference, needed]) {
        expect(JSON.stringify(json)).to.not.match(
          /constraint|operator_id|key value|duplicate (?:key|entry)|SQLITE/i,
        );
      }
    });

    it('stores the rows of nested inputs all together, or not at all', async () => {
      const fleet = [VESSEL, { ...VESSEL, name: 'New Two' }];
      expect((await ask('POST', '/operators', { name: 'Fleet Lines', fleet })).status).to.equal(201);
      expect((await ask('GET', '/vessels?q=New')).json).to.have.nested.property('page.total', 2);
      const broken = [VESSEL, { ...VESSEL, operator: { id: 99 } }];
      await ask('POST', '/operators', { name: 'Half Lines', fleet: broken });
      const twice = await ask('POST', '/operators', { name: 'Ostwick', fleet: [VESSEL] });
      expect(twice.status).to.equal(409);
      expect((await ask('GET', '/vessels?q=New')).json).to.not.have.nested.property('page.total', 5);
    });

    it('holds changes to what their caller knows', async () => {
      const tag = (await ask('GET', '/vessels/1')).headers.get('etag') ?? '';
      const old = { 'if-match': '"old"' };
      expect((await ask('PATCH', '/vessels/1', { name: 'A' }, old)).status).to.equal(412);
      expect((await ask('PATCH', '/vessels/1', { name: 'A' }, { 'if-match': tag })).status).to.equal(200);
      expect((await ask('PATCH', '/vessels/1', { name: 'B' }, { 'if-match': tag })).status).to.equal(412);
      expect((await ask('DELETE', '/vessels/5', undefined, old)).status).to.equal(412);
      expect((await ask('GET', '/vessels/1')).json).to.include({ name: 'A' });
    });

    it('pages by cursor, whatever is added meanwhile', async () => {
      const seen: number[] = [];
      let after = '';
      for (let i = 0; i < 9; i++) {
        const { json } = await ask('GET', `/feed${after}`);
        const { items, page } = json as { items: { id: number }[]; page: { next: string | null } };
        seen.push(...items.map(({ id }) => id));
        // Each of these comes before the place that the reader has reached.
        await ask('POST', '/vessels', { ...VESSEL, name: `Added ${i}`, callSign: '' });
        if (page.next === null) break;
        after = `?after=${page.next}`;
      }
      expect(seen.filter((id) => id <= 5)).to.deep.equal([3, 5, 1, 4, 2]);
      expect(new Set(seen).size).to.equal(seen.length);
    });
  });
}
