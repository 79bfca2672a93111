import { expect } from 'chai';
import { api, collection, compare, contractOf, list, openApi, shape } from '../../index.js';
import { memberTable } from '../../kit.js';
import { declarationError } from '../../testing/engines.js';
import { fleet } from '../../testing/fleet.js';

type Audiences = NonNullable<Parameters<typeof collection>[2]['audiences']>;

const Card = shape(fleet.vessel, ({ id, name }) => ({ id, name }), { name: 'Card' });

const vesselsFor = (audiences?: Audiences) =>
  api({
    title: 'Fleet',
    version: '1.0.0',
    audiences: ['agent', 'office'],
    endpoints: {
      vessels: collection('/vessels', fleet.vessel, {
        list: list(Card),
        read: Card,
        remove: true,
        ...(audiences === undefined ? {} : { audiences }),
      }),
    },
  });

const open = vesselsFor();
const guarded = vesselsFor({ remove: ['office'], list: ['agent', 'office'] });

describe('audiences of a collection', () => {
  it('are said by operation: what is not named answers everybody', () => {
    const whom = guarded.plan.endpoints.map(({ name, audiences }) => [name, audiences]);
    expect(whom).to.deep.equal([
      ['vessels.list', ['agent', 'office']],
      ['vessels.read', null],
      ['vessels.remove', ['office']],
    ]);
    const all = vesselsFor(['office']).plan.endpoints.map(({ audiences }) => audiences);
    expect(all).to.deep.equal([['office'], ['office'], ['office']]);
  });

  it('refuse an operation that is not there, and an audience that nobody knows', () => {
    expect(declarationError(() => vesselsFor({ amend: ['office'] }))).to.contain('amend');
    expect(declarationError(() => vesselsFor({ removes: ['office'] } as unknown as Audiences))).to.contain(
      'Did you mean "remove"?',
    );
    expect(declarationError(() => vesselsFor({ remove: ['ofice'] }))).to.contain(
      'vessels.remove: there is no audience "ofice". Did you mean "office"?',
    );
  });

  it('stand in the contract, where taking one away breaks it', () => {
    const { differences } = compare(contractOf(open), contractOf(guarded));
    const removal = differences.filter(({ reach }) =>
      reach.some(({ endpoint }) => endpoint === 'vessels.remove'),
    );
    expect(removal.map(({ code, effect }) => [code, effect])).to.deep.equal([
      ['audience-removed', 'breaking'],
    ]);
    const back = compare(contractOf(guarded), contractOf(open)).differences;
    expect([...new Set(back.map(({ effect }) => effect))]).to.deep.equal(['safe']);
  });

  it('stand in the document of all, and decide what is in the document of one', () => {
    const pathsOf = (options: object) =>
      (openApi(guarded, options) as { paths: Record<string, Record<string, object>> }).paths;
    const one = pathsOf({})['/vessels/{id}'] ?? {};
    expect(one['delete']).to.have.deep.property('x-audiences', ['office']);
    expect(one['get']).not.to.have.property('x-audiences');
    expect(Object.keys(pathsOf({ audience: 'agent' })['/vessels/{id}'] ?? {})).not.to.include('delete');
    expect(pathsOf({ audience: null })).not.to.have.property('/vessels');
  });

  it('stand in the table of members: an endpoint sends nothing to those whom it does not answer', () => {
    const endpoints = guarded.plan.endpoints.filter(({ returns }) => returns !== null);
    const [line] = memberTable(guarded.plan, endpoints, [null, 'agent']);
    expect(line?.cells).to.deep.equal({
      // All whom it answers: that is said once, at the endpoint.
      'vessels.list': [{ how: { kind: 'sent' }, when: null, whom: null }],
      'vessels.read': [{ how: { kind: 'sent' }, when: null, whom: null }],
    });
    const [forNobody] = memberTable(guarded.plan, endpoints, [null]);
    expect(forNobody?.cells['vessels.list']).to.deep.equal([]);
  });
});
