import { expect } from 'chai';
import { gribo, HARBOUR, type Outcome } from '../testing/run-gribo.js';

describe('gribo try', () => {
  const tried = (endpoint: string, body: string): Promise<Outcome> => gribo(['try', endpoint], HARBOUR, body);

  it('shows what a good body would store', async () => {
    const { code, out } = await gribo(['try', 'vessels.create', '--body', 'bodies/vessel.json']);
    expect(code).to.equal(0);
    expect(out).to.match(/^vessels\.create {2}POST \/vessels {2}takes NewVessel\n/);
    expect(out)
      .to.contain("flagState: 'QM'")
      .and.contain("grossTonnage: '412.0'")
      .and.contain('operatorId: 9');
    const data = await gribo(['try', 'vessels.create', '--body', 'bodies/vessel.json', '--json']);
    expect(JSON.parse(data.out)).to.deep.include({ ok: true });
  });

  it('shows the steps that a store would take: nested rows in one, with the keys that flow', async () => {
    const { out } = await gribo(['try', 'portCalls.create', '--body', 'bodies/call.json']);
    expect(out).to.match(/^ {2}1 {2}insert {2}portCall {3}1 row$/m);
    expect(out).to.match(/^ {2}2 {2}insert {2}cargoItem {2}2 rows; portCallId ← 1\.id$/m);
    const many = await gribo(['try', 'positions.create', '--body', 'bodies/positions.csv']);
    expect(many.out).to.contain('insert  positionReport  3 rows');
    const wrong = await gribo(['try', 'positions.create', '--body', 'bodies/wrong-positions.csv']);
    expect(wrong.code).to.equal(1);
    // Each issue stands under its line.
    expect(wrong.out).to.match(
      / 3 {2}1,2026-03-01 06:10.*\n {6}└ \/1\/at {2}format: .*\n.*\/1\/lat.*\n.*\/1\/speedKn/,
    );
    expect(wrong.out).to.match(/ 4 {2},2026.*\n {6}└ \/2\/vesselId {2}required/);
    const data = await gribo(['try', 'portCalls.create', '--body', 'bodies/call.json', '--json']);
    const { steps } = JSON.parse(data.out) as { steps: { kind: string; rows: unknown[] }[] };
    expect(steps.map(({ kind, rows }) => `${kind} ${rows.length}`)).to.deep.equal(['insert 1', 'insert 2']);
  });

  it('shows the issues of a bad one under its lines', async () => {
    const { code, out, err } = await gribo(['try', 'portCalls.create', '--body', 'bodies/wrong-call.json']);
    expect({ code, err }).to.deep.equal({ code: 1, err: '8 issues: nothing would be stored.\n' });
    const lines = out.split('\n');
    const under = (text: string): string | undefined =>
      lines[lines.findIndex((line) => line.includes(text)) + 1];
    expect(under('"eta": "2026-02-30T06:00:00Z"')).to.match(/^ +└ \/eta {2}format: Expected a date and time/);
    expect(under('"remark"')).to.contain(
      '/remark  unknown: There is no such member. Did you mean "remarks"?',
    );
    expect(under('"commodity": ""')).to.contain('/cargo/1/commodity  length');
  });

  it('takes standard input, and tells what is set once, broken, or hostile', async () => {
    expect((await tried('vessels.amend', '{"imoNumber":"9100274"}')).out).to.contain(
      '/imoNumber  fixed: This is set once',
    );
    expect((await tried('vessels.amend', '{"name":"New"}')).out).to.contain(
      'what would be changed of a vessel',
    );
    expect((await tried('vessels.amend', '{"name":\n "x",,}')).out).to.match(
      / 2 .*\n +└ \(the whole body\) {2}syntax/,
    );
    const deep = await tried('vessels.create', '['.repeat(100_000));
    expect(deep.code).to.equal(1);
    expect(deep.out).to.contain('limit: A body may be at most 32 levels deep');
    expect(Math.max(...deep.out.split('\n').map((line) => line.length))).to.be.below(200);
  });

  it('says what was called wrongly', async () => {
    expect(await gribo(['try', 'vessels.list'])).to.deep.include({
      code: 2,
      err: 'vessels.list takes no body.\n',
    });
    expect((await gribo(['try', 'vessels.create', '--body', 'no.json'])).err).to.equal(
      'There is no file no.json.\n',
    );
  });
});
