import { expect } from 'chai';
import { gribo } from '../testing/run-gribo.js';

describe('gribo table', () => {
  it('shows which member appears at which endpoint, for whom', async () => {
    const { code, out } = await gribo(['table', 'berth']);
    expect(code).to.equal(0);
    const cells = out
      .split('\n')
      .filter((line) => line.startsWith('│'))
      .map((line) =>
        line
          .split('│')
          .map((cell) => cell.trim())
          .slice(1, -1),
      );
    expect(cells[0]).to.deep.equal(['berth', 'berths.list', 'berths.read', 'berths.options']);
    expect(cells).to.deep.include(['code', 'sent', 'sent', 'sent']);
    expect(cells).to.deep.include(['quay', 'quay.name', 'object', '·']);
    expect(cells).to.deep.include(['description', 'shorten', 'sent', '·']);
    expect(cells).to.deep.include(['gateCode', '·', 'harbourMaster: unsealed', '·']);
  });

  it('shows endpoints that are alike in one column', async () => {
    const { out } = await gribo(['table', 'portCall']);
    const lines = out.split('\n').filter((line) => /[│┌]/.test(line));
    const cells = lines.slice(1, 6).map((line) => line.split('│').map((cell) => cell.trim())[4]);
    const alike = ['portCalls.create', 'replace', 'amend', 'cancel', 'for agent, harbourMaster'];
    expect(cells).to.deep.equal(alike);
    expect(out)
      .to.match(/│ eta +│ public: sent, +│.*\n│ +│ where \(1\) +│/)
      .and.match(/│ +│ harbourMaster: +│/);
    expect(out).to.contain('(1) embargoUntil is null or embargoUntil is at most now\n');
  });

  it('shows what comes in, from whom, and what it sets', async () => {
    const { out } = await gribo(['table', 'vessel', '--inputs']);
    expect(out).to.match(/│ flag +│ required, sets flagState +│ required, sets flagState +│ optional, sets/);
    expect(out).to.match(/│ imoNumber +│ required +│ · +│ · +│/);
    const lines = JSON.parse((await gribo(['table', 'vessel', '--inputs', '--json'])).out);
    expect(lines[0]).to.deep.equal({
      member: 'imoNumber',
      cells: {
        'vessels.create': [{ sets: 'imoNumber', by: [], presence: 'required', whom: null }],
        'vessels.replace': [],
        'vessels.amend': [],
      },
    });
    expect((await gribo(['table', 'vesel', '--inputs'])).err).to.contain('Did you mean "vessel"?');
    expect((await gribo(['table', 'vessel', '--inputs', '--rows'])).code).to.not.equal(0);
  });

  it('shows which rows callers see and change', async () => {
    const { out } = await gribo(['table', '--rows']);
    expect(out).to.match(/│ portCall +│ no audience, public +│ status is/);
    expect(out).to.match(/│ vessel +│ no audience, public +│ all +│ none +│/);
    expect(out).to.contain("so they are everybody's: operator, ");
    const lines = JSON.parse((await gribo(['table', 'vessel', '--rows', '--json'])).out);
    expect(lines).to.deep.include({
      entity: 'vessel',
      audience: 'agent',
      see: 'all',
      change: 'operatorId is caller.operatorId',
      isRuled: true,
    });
    expect((await gribo(['table', '--rows', 'vesel'])).err).to.contain('No endpoint is about "vesel"');
    expect((await gribo(['table'])).err).to.contain('Name an entity');
    const publics = JSON.parse((await gribo(['table', '--rows', '--audience', 'public', '--json'])).out);
    expect([...new Set(publics.map(({ audience }: { audience: string }) => audience))]).to.eql(['public']);
    const unknown = await gribo(['table', '--rows', '--audience', 'agents']);
    expect(unknown.err).to.contain('Did you mean "agent"?');
  });

  it('is for one audience, and data, where that is wanted', async () => {
    const lines = JSON.parse((await gribo(['table', 'berth', '--audience', 'public', '--json'])).out);
    const members = lines.map(({ member }: { member: string }) => member);
    expect(members).to.include('code').and.not.include('gateCode').and.not.include('calls');
    const vessel = JSON.parse((await gribo(['table', 'vessel', '--json'])).out);
    const operator = vessel.find(({ member }: { member: string }) => member === 'operator');
    expect(operator.cells).to.deep.include({
      'vessels.list': [{ how: { kind: 'object' }, when: { kind: 'asked', names: ['operator'] }, whom: null }],
      'vessels.read': [{ how: { kind: 'object' }, when: null, whom: null }],
    });
  });
});
