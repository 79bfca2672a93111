import { expect } from 'chai';
import {
  api,
  callerOf,
  collection,
  entity,
  equals,
  integer,
  list,
  memoryStore,
  model,
  rowRule,
  shape,
  toOne,
  unlessNull,
} from 'gribo';
import { declarationError } from '../../gribo/src/testing/engines.js';
import { serve } from './index.js';

const caller = callerOf({ tenantId: integer() });

describe('a link that a rule may hide the row behind', () => {
  const shown = model(
    {
      owner: entity('owner', { id: integer().key(), tenantId: integer() }),
      thing: entity('thing', { id: integer().key(), ownerId: integer() }),
    },
    { thing: { owner: toOne('owner', 'ownerId') } },
  );
  const Owner = shape(shown.owner, ({ id }) => ({ id }));
  const Bare = shape(shown.thing, (t) => ({ id: t.id, owner: Owner(t.owner) }));
  const Thing = shape(shown.thing, (t) => ({ id: t.id, owner: unlessNull(Owner(t.owner)) }));
  const ofThings = (body: typeof Bare | typeof Thing) =>
    api({
      title: 'Things',
      version: '1',
      caller,
      rows: [rowRule(shown.owner, (o) => equals(o.tenantId, caller.tenantId))],
      endpoints: { things: collection('/things', shown.thing, { list: list(body as typeof Thing) }) },
    });

  it('is said by a member that can be left out: types and declarations take it alike', async () => {
    expect(declarationError(() => ofThings(Bare))).to.contain(
      'a rule may hide the owner behind "owner", and the member could not say so: say owner: unlessNull(…)',
    );
    const store = memoryStore(shown, {
      owner: [
        { id: 1, tenantId: 1 },
        { id: 2, tenantId: 2 },
      ],
      thing: [
        { id: 1, ownerId: 1 },
        { id: 2, ownerId: 2 },
      ],
    });
    const handle = serve(ofThings(Thing), { store, caller: () => ({ tenantId: 1 }) });
    const response = await handle(new Request('http://t.test/things'));
    expect(await response.json()).to.deep.equal([{ id: 1, owner: { id: 1 } }, { id: 2 }]);
  });
});
