import { expect } from 'chai';
import {
  any,
  api,
  atLeast,
  atMost,
  audience,
  type Collection,
  collection,
  contains,
  derive,
  equals,
  first,
  given,
  holds,
  integer,
  isNull,
  list,
  masked,
  now,
  page,
  rowRule,
  shape,
  shorten,
  some,
  text,
} from '../index.js';
import { sayCondition } from '../plan/say-condition.js';
import { declarationError } from '../testing/engines.js';
import { stock } from '../testing/stock.js';

// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;

const Id = shape(stock.portCall, ({ id }) => ({ id }), { name: 'Id' });

/** An API of calls and vessels, with what is said of it. */
const callsWith = (body: Any, options: object, more: object = {}, rows: readonly Any[] = []) =>
  api({
    title: 'T',
    version: '1',
    audiences: ['agent', 'public'],
    rows,
    endpoints: {
      calls: collection('/calls', stock.portCall, { list: list(body), ...options } as Any),
      ...more,
    },
  });

const filterOf = (made: ReturnType<typeof callsWith>): string => {
  const shown = made.plan.endpoints[0]?.filters[0]?.shown ?? null;
  return shown === null ? 'always' : sayCondition(shown);
};
const from = (c: Any): Any => ({ from: atLeast(c.eta) });

describe('what is filtered and ordered', () => {
  it('is looked at as it is where it is always shown, in whatever form', () => {
    for (const member of [
      (c: Any) => c.eta,
      (c: Any) => ({ when: c.eta }),
      (c: Any) => given(audience('agent'), c.eta),
    ].slice(0, 2)) {
      const Body = shape(stock.portCall, (c) => ({ id: c.id, eta: member(c) }));
      expect(filterOf(callsWith(Body, { filters: from }))).to.equal('always');
    }
    const Short = shape(stock.portCall, (c) => ({ id: c.id, remarks: shorten(c.remarks, 3) }));
    expect(filterOf(callsWith(Short, { filters: (c: Any) => ({ q: contains(c.remarks) }) }))).to.equal(
      'always',
    );
  });

  it('takes along the condition that is data, of every member that shows it', () => {
    const open = (c: Any) => any(isNull(c.remarks), atMost(c.eta, now));
    const Body = shape(stock.portCall, (c: Any) => ({ id: c.id, eta: given(open(c), c.eta) }));
    expect(filterOf(callsWith(Body, { filters: from }))).to.equal('remarks is null or eta is at most now');
    const Two = shape(stock.portCall, (c: Any) => ({
      ...Body(c),
      again: given(equals(c.status, 'sailed'), { eta: c.eta }),
    }));
    expect(filterOf(callsWith(Two, { filters: from }))).to.equal(
      '(remarks is null or eta is at most now) or status is "sailed"',
    );
    // What is asked for may be asked for; what one endpoint of the entity shows, another need not hide.
    const Asked = shape(stock.portCall, (c: Any) => ({ id: c.id, eta: c.eta }));
    expect(filterOf(callsWith(Id, { filters: from, read: Asked }))).to.equal('always');
    expect(
      filterOf(
        callsWith(Id, { filters: from, read: Asked, audiences: { read: ['agent'], list: ['agent'] } }),
      ),
    ).to.equal('for agent');
  });

  it('is refused where it is never shown, or hidden by code, with what to write', () => {
    const Hidden = shape(stock.portCall, (c) => ({
      id: c.id,
      eta: given(
        holds([c.remarks], (remarks) => remarks === null),
        c.eta,
      ),
      year: derive([c.eta], integer(), (eta) => eta.getUTCFullYear()),
    }));
    const Mine = shape(stock.portCall, (c) => ({ id: c.id, eta: given(audience('agent'), c.eta) }));
    const wrong = (body: Any, options: object): string => declarationError(() => callsWith(body, options));
    expect(wrong(Hidden, { filters: from })).to.contain(
      'calls.list?from: nobody is shown eta here, or only where code says so: show it to them, under a condition that is data where it is not always to be seen, or leave the filter to those who see it: given(audience(…), …)',
    );
    expect(wrong(Mine, { filters: from })).to.contain('callers of no audience, public are not shown eta');
    expect(wrong(Mine, { sort: ['eta'] })).to.contain('calls.list?sort: callers of no audience, public');
    expect(wrong(Mine, { list: page(Mine, { sort: ['eta desc'] }) })).to.contain('or page by another column');
    const Call = shape(stock.vessel, (v) => ({ last: first(some(v.portCalls, { sort: ['eta'] }), Id) }), {
      name: 'Call',
    });
    expect(
      declarationError(() =>
        callsWith(Id, {}, { vessels: collection('/vessels', stock.vessel, { list: list(Call) }) }),
      ),
    ).to.contain('Call.last: nobody is shown eta here');
    expect(
      filterOf(
        callsWith(Mine, { filters: (c: Any) => ({ from: given(audience('agent'), atLeast(c.eta)) }) }),
      ),
    ).to.equal('for agent');
    expect(() => callsWith(Mine, { sort: [{ by: 'eta', audiences: ['agent'] }] })).to.not.throw();
  });

  it('is followed over links: the way, and what is at its end, have to be shown', () => {
    const Vessel = shape(stock.vessel, (v) => ({ id: v.id, name: v.name, kind: v.kind }), { name: 'Vessel' });
    const vessels = {
      vessels: collection('/vessels', stock.vessel, { read: Vessel }) as Collection<Any, Any, Any, Any>,
    };
    const byName = { filters: (c: Any) => ({ vessel: equals(c.vessel.name), kind: equals(c.vessel.kind) }) };
    const Named = shape(stock.portCall, (c) => ({ id: c.id, vessel: c.vessel.name }), { name: 'Named' });
    const Linked = shape(stock.portCall, (c) => ({ id: c.id, vessel: { id: c.vessel.id } }), {
      name: 'Linked',
    });
    expect(declarationError(() => callsWith(Id, byName, vessels))).to.contain('calls.list?vessel');
    expect(declarationError(() => callsWith(Named, byName, vessels))).to.contain('calls.list?kind');
    expect(filterOf(callsWith(Linked, byName, vessels))).to.equal('always');
    const rule = rowRule(stock.vessel, (v) => equals(v.kind, 'tug'));
    const May = shape(stock.portCall, (c) => ({
      id: c.id,
      vessel: given(equals(c.vessel.kind, 'tug'), Vessel(c.vessel)),
    }));
    expect(filterOf(callsWith(May, byName, {}, [rule]))).to.equal('vessel.kind is "tug"');
  });

  it('counts as shown neither what is masked nor a sealed column', () => {
    const Masked = shape(stock.vessel, (v) => ({ id: v.id, name: masked(v.name as never) as never }));
    expect(
      declarationError(() =>
        callsWith(
          Id,
          {},
          {
            vessels: collection('/vessels', stock.vessel, {
              list: list(Masked),
              filters: (v: Any) => ({ name: equals(v.name) }),
            }),
          },
        ),
      ),
    ).to.contain('vessels.list?name');
    expect(text().sealed('x').settings.sealed).to.equal('x');
  });
});
