import { expect } from 'chai';
import fc from 'fast-check';
import {
  cursorOf,
  list,
  type PageQuery,
  page,
  type RequestError,
  shape,
  wantedPage,
  wrap,
} from '../index.js';
import { thrownBy } from '../testing/engines.js';
import { fleet, vesselRow } from '../testing/fleet.js';

const Card = shape(fleet.vessel, ({ id, name }) => ({ id, name }), { name: 'Card' });
const CallLine = shape(fleet.portCall, ({ id }) => ({ id }));
const numbered = page(Card, { size: 20, max: 50 });
const byCursor = page(CallLine, { by: 'cursor', size: 5, sort: ['eta desc', 'remarks'] });

const issues = (body: Parameters<typeof wantedPage>[0], query: PageQuery): string[] =>
  (thrownBy(() => wantedPage(body, query)) as RequestError).issues.map(
    ({ parameter, code, message }) => `${parameter} ${code}: ${message}`,
  );

describe('wantedPage', () => {
  it('gives the first page of the declared size, or what the caller wants within bounds', () => {
    expect(wantedPage(numbered, {})).to.deep.equal({ number: 1, size: 20, after: null });
    expect(wantedPage(numbered, { page: '3', size: '50' })).to.deep.equal({
      number: 3,
      size: 50,
      after: null,
    });
    expect(
      wantedPage(
        wrap(numbered, (rows) => ({ rows })),
        { size: '1' },
      ).size,
    ).to.equal(1);
  });

  it('refuses numbers and sizes that are none, all of them at once', () => {
    expect(issues(numbered, { page: '0', size: '51' })).to.deep.equal([
      'size range: size must be a whole number from 1 to 50.',
      'page range: page must be a whole number from 1 to 1000000000.',
    ]);
    for (const text of ['', '-1', '1.5', 'x', '1e3', ' 1', '99999999999999999999']) {
      expect(issues(numbered, { page: text })).to.have.length(1);
    }
    expect(issues(numbered, { after: 'x' })).to.include(
      'after unknown: This list goes by number: leave out after.',
    );
    expect(issues(byCursor, { page: '2' })).to.deep.equal([
      'page unknown: This list goes by cursor: leave out page.',
    ]);
    expect(
      issues(
        wrap(list(Card), (rows) => ({ rows })),
        {},
      ),
    ).to.deep.equal(['page unknown: This list has no pages.']);
  });

  it('takes up after the row of a cursor: its values, the key last', () => {
    const [call] = vesselRow.portCalls;
    const cursor = cursorOf(byCursor, call as object);
    expect(cursor).to.match(/^[\w-]+$/);
    expect(wantedPage(byCursor, { after: cursor }).after).to.deep.equal([call?.eta, 'Late swell.', 11]);
    const empty = { ...call, remarks: null };
    expect(wantedPage(byCursor, { after: cursorOf(byCursor, empty) }).after).to.deep.equal([
      call?.eta,
      null,
      11,
    ]);
  });

  it('refuses cursors that were tampered with, or are of another order', () => {
    const cursor = cursorOf(byCursor, vesselRow.portCalls[0] as object);
    const other = cursorOf(
      page(CallLine, { by: 'cursor', sort: ['eta', 'remarks'] }),
      vesselRow.portCalls[0] as object,
    );
    const forged = Buffer.from('["eta desc,remarks","soon",1,"x"]').toString('base64url');
    for (const after of [other, forged, cursor.slice(2), `${cursor}%`, '', 'x'.repeat(10_000), 'bnVsbA']) {
      expect(issues(byCursor, { after })).to.deep.equal([
        'after unknown: after is no cursor of this list: take one that it gave as next, or leave it out.',
      ]);
    }
  });

  it('holds the key once, and texts as long as columns have them', () => {
    const byKey = page(Card, { by: 'cursor', sort: ['id desc'] });
    expect(wantedPage(byKey, { after: cursorOf(byKey, { id: 7 }) }).after).to.deep.equal([7]);
    const byName = page(Card, { by: 'cursor', sort: ['name'] });
    const after = (length: number) => ({ after: cursorOf(byName, { id: 1, name: 'n'.repeat(length) }) });
    expect(wantedPage(byName, after(40_000)).after?.[0]).to.have.length(40_000);
    expect(issues(byName, after(60_000))).to.have.length(1);
  });

  it('refuses null where the column always has a value', () => {
    const forge = (values: unknown[]) => ({
      after: Buffer.from(JSON.stringify(['eta desc,remarks', ...values])).toString('base64url'),
    });
    expect(wantedPage(byCursor, forge(['2026-01-01T00:00:00.000Z', null, 1])).after).to.have.length(3);
    expect(issues(byCursor, forge([null, null, 1]))).to.have.length(1);
    expect(issues(byCursor, forge(['2026-01-01T00:00:00.000Z', null, null]))).to.have.length(1);
  });

  it('refuses moments that no cursor was given with', () => {
    for (const moment of [
      '-32769',
      '1e9',
      '2026-01-01',
      '+010000-01-01T00:00:00.000Z',
      'x',
      0,
      '2026-01-01T00:00:00Z',
    ]) {
      const values = JSON.stringify(['eta desc,remarks', moment, null, 1]);
      expect(
        issues(byCursor, { after: Buffer.from(values).toString('base64url') }),
        String(moment),
      ).to.have.length(1);
    }
  });

  it('never throws anything else, whatever is sent', () => {
    fc.assert(
      fc.property(
        fc.record({ page: fc.string(), size: fc.string(), after: fc.string() }, { requiredKeys: [] }),
        (query) => {
          for (const body of [numbered, byCursor]) {
            try {
              const { number, size } = wantedPage(body, query);
              expect([number, size].every((value) => Number.isInteger(value) && value >= 1)).to.equal(true);
            } catch (error) {
              expect((error as RequestError).code).to.equal('REQUEST');
            }
          }
        },
      ),
    );
  });
});
