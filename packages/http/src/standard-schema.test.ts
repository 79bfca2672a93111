import { sValidator } from '@hono/standard-validator';
import { standardSchemaResolver } from '@hookform/resolvers/standard-schema';
import type { StandardSchemaV1 } from '@standard-schema/spec';
import { expect } from 'chai';
import {
  amending,
  type BodyIn,
  type Change,
  date,
  entity,
  input,
  inputFrom,
  integer,
  model,
  optional,
  preset,
  shape,
  text,
  timestamp,
  toMany,
} from 'gribo';
import { Hono } from 'hono';

const db = model(
  {
    vessel: entity('vessel', {
      id: integer().key().generated(),
      name: text({ min: 2, max: 20 }),
      built: integer({ min: 1850, max: 2100 }),
      registered: date().nullable(),
      seen: timestamp(),
    }),
    call: entity('call', { id: integer().key(), vesselId: integer(), eta: timestamp() }),
  },
  { vessel: { calls: toMany('call', 'vesselId') } },
);

const NewCall = input(db.call, ({ id, eta }) => ({ id, eta }));
const NewVessel = input(db.vessel, (v) => ({
  name: v.name,
  of: { built: v.built, 'a/b': optional(v.registered) },
  seen: preset(v.seen, '2026-01-01T00:00:00Z'),
  calls: optional(NewCall(v.calls)),
}));
const EditVessel = amending(NewVessel, ({ calls, ...rest }) => rest);

const RIGHT = { name: 'Anselma', of: { built: 1990 }, calls: [{ id: 1, eta: '2026-03-01T06:00:00Z' }] };
const WRONG = { name: 'A', of: { built: 12.5, 'a/b': 'soon' }, calls: [{ id: 1, eta: 'soon' }], more: 1 };

type Body = BodyIn<typeof NewVessel>;
const body: Body = { name: 'Anselma', of: { built: 1990, 'a/b': null }, seen: '2026-01-01T00:00:00Z' };
const patch: BodyIn<typeof EditVessel> = { of: { built: 1991 } };
// @ts-expect-error a moment is text in a body
const moment: Body = { name: 'Anselma', of: { built: 1990 }, seen: new Date() };
// @ts-expect-error a name is missing
const nameless: Body = { of: { built: 1990 } };

describe('an input as a Standard Schema', () => {
  it('is one, of the body as it is sent and of the change', () => {
    const schema: StandardSchemaV1<Body, Change<typeof NewVessel>> = NewVessel;
    const edit: StandardSchemaV1<BodyIn<typeof EditVessel>, Change<typeof EditVessel>> = EditVessel;
    const fromShape: StandardSchemaV1 = inputFrom(shape(db.vessel, ({ name }) => ({ name })));
    for (const { '~standard': standard } of [schema, edit, fromShape]) {
      expect(standard).to.deep.include({ version: 1, vendor: 'gribo' });
    }
    expect(NewVessel['~standard'].validate(body)).to.deep.equal({
      value: { name: 'Anselma', built: 1990, registered: null, seen: new Date('2026-01-01T00:00:00Z') },
    });
    expect(EditVessel['~standard'].validate(patch)).to.deep.equal({ value: { built: 1991 } });
    expect(fromShape['~standard'].validate({ name: 'Anselma' })).to.deep.equal({
      value: { name: 'Anselma' },
    });
    expect([moment, nameless].map((one) => 'issues' in NewVessel['~standard'].validate(one))).to.deep.equal([
      true,
      true,
    ]);
  });

  it('tells every issue with the way to it', () => {
    const { issues = [] } = NewVessel['~standard'].validate(WRONG);
    expect(issues.map(({ path }) => path)).to.have.deep.members([
      ['name'],
      ['of', 'built'],
      ['of', 'a/b'],
      ['calls', 0, 'eta'],
      ['more'],
    ]);
    expect(issues.every(({ message }) => message.length > 5)).to.equal(true);
  });

  it('takes undefined as JSON does: as nothing', () => {
    const sent = { ...body, calls: undefined, of: { built: 1990, 'a/b': undefined }, more: undefined };
    expect(NewVessel['~standard'].validate(sent)).to.deep.equal({
      value: { name: 'Anselma', built: 1990, seen: new Date('2026-01-01T00:00:00Z') },
    });
    const { issues = [] } = NewVessel['~standard'].validate({ ...sent, name: undefined, calls: [undefined] });
    expect(issues.map(({ path }) => path)).to.have.deep.members([['name'], ['calls', 0]]);
  });

  it('names places in lists by number, and members by their own names', () => {
    const Odd = input(db.vessel, (v) => ({ 'a~1/b': v.name, '07': v.built, calls: NewCall(v.calls) }));
    const calls = Array.from({ length: 12 }, (_, i) => ({
      id: i,
      eta: i < 1 || i > 9 ? 'soon' : '2026-03-01T06:00:00Z',
    }));
    const { issues = [] } = Odd['~standard'].validate({
      'a~1/b': 5,
      '07': 'x',
      calls: [...calls, { id: 1, more: undefined }],
    });
    expect(issues.map(({ path }) => path)).to.have.deep.members([
      ['a~1/b'],
      ['07'],
      ['calls', 0, 'eta'],
      ['calls', 10, 'eta'],
      ['calls', 11, 'eta'],
      ['calls', 12, 'eta'],
    ]);
  });

  it('refuses bodies without end, as any other', () => {
    let deep: unknown = 1;
    for (let i = 0; i < 200_000; i++) deep = i % 2 === 0 ? { a: deep } : [deep];
    for (const wrong of [{ ...body, name: deep }, { ...body, more: deep }, { ...body, calls: deep }, deep]) {
      const { issues = [] } = NewVessel['~standard'].validate(wrong);
      expect(issues).to.have.length.above(0);
    }
  });

  it('is taken by the validator of a web framework', async () => {
    const app = new Hono().post('/vessels', sValidator('json', NewVessel), (c) => {
      const change: Change<typeof NewVessel> = c.req.valid('json');
      return c.json({ name: change.name, isMoment: change.seen instanceof Date });
    });
    const post = (sent: unknown) =>
      app.request('/vessels', {
        method: 'POST',
        body: JSON.stringify(sent),
        headers: { 'content-type': 'application/json' },
      });
    const made = await post(RIGHT);
    expect([made.status, await made.json()]).to.deep.equal([200, { name: 'Anselma', isMoment: true }]);
    const refused = await post(WRONG);
    expect(refused.status).to.equal(400);
    expect(JSON.stringify(await refused.json())).to.contain('"path":["calls",0,"eta"]');
  });

  it('is taken by the resolver of a form library', async () => {
    const resolve = standardSchemaResolver(NewVessel);
    const options = { fields: {}, shouldUseNativeValidation: false } as const;
    const right = await resolve(RIGHT, undefined, options);
    expect(right).to.deep.equal({
      values: {
        name: 'Anselma',
        built: 1990,
        seen: new Date('2026-01-01T00:00:00Z'),
        calls: [{ id: 1, eta: new Date('2026-03-01T06:00:00Z') }],
      },
      errors: {},
    });
    const { errors } = await resolve(
      { ...RIGHT, name: 'A', calls: [{ id: 1, eta: 'soon' }] },
      undefined,
      options,
    );
    expect(errors.name?.message).to.contain('2');
    expect(errors.calls?.[0]?.eta?.message).to.contain('soon');
  });
});
