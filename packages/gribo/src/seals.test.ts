import { expect } from 'chai';
import fc from 'fast-check';
import {
  all,
  any,
  api,
  asked,
  at,
  audience,
  collection,
  constant,
  count,
  derive,
  entity,
  everything,
  first,
  given,
  holds,
  integer,
  list,
  masked,
  maximum,
  model,
  not,
  page,
  recursive,
  type ShapeOf,
  shape,
  shorten,
  some,
  text,
  toMany,
  toOne,
  unlessNull,
  unseal,
  upper,
  wrap,
} from './index.js';
import { runs } from './testing/cases.js';
import { ENGINES, looseWriter } from './testing/engines.js';

// Every sealed value is a canary: it names the column it comes from, so that where it is found in a
// response, the way it took is known.
// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;

const AUDIENCES = ['public', 'agent', 'office'] as const;
const ENDPOINTS = ['list', 'read', 'create'] as const;
const ENTITIES = ['a', 'b', 'c'] as const;

const db: Any = model(
  Object.fromEntries(
    ENTITIES.map((name) => [
      name,
      entity(name, {
        id: integer().key(),
        open: text(),
        secret: text().sealed('x'),
        hidden: text().nullable().sealed('y'),
        next: integer().nullable(),
      }),
    ]),
  ),
  {
    a: { to: toOne('b', 'next'), many: toMany('b', 'next') },
    b: { to: toOne('c', 'next'), many: toMany('c', 'next') },
  } as Any,
);

const canary = (name: string, column: string): string => `CANARY-${name}-${column}`;

const rowOf = (level: number): Any => {
  const name = ENTITIES[level] ?? 'c';
  const row = {
    id: level,
    open: `open-${name}`,
    secret: canary(name, 'secret'),
    hidden: canary(name, 'hidden'),
    next: 1,
  };
  return level === 2 ? row : { ...row, to: rowOf(level + 1), many: [rowOf(level + 1), rowOf(level + 1)] };
};

/** What a random shape let out on purpose: a canary, for these audiences, at these endpoints. */
interface Allowed {
  readonly canary: string;
  readonly audiences: readonly string[];
  readonly endpoints: readonly string[];
}

class RandomShapes {
  readonly allowed: Allowed[] = [];
  readonly #choices: readonly number[];
  #turn = 0;

  constructor(choices: readonly number[]) {
    this.#choices = choices;
  }

  #next(below: number): number {
    return (this.#choices[this.#turn++ % this.#choices.length] ?? 0) % below;
  }

  #condition(v: Any): Any {
    switch (this.#next(6)) {
      case 0:
        return audience(AUDIENCES[this.#next(3)] ?? 'public');
      case 1:
        return asked('x');
      case 2:
        return holds([v.secret], (secret: Any) => secret.length > 0);
      case 3:
        return not(audience('public'));
      case 4:
        return all(
          any(audience('agent'), asked('x')),
          holds([v.id], () => true),
        );
      default:
        return any(not(asked('x')), audience('office'));
    }
  }

  /** One way of using a row's columns, sealed ones included. */
  #member(name: string, v: Any, endpoints: readonly string[]): Any {
    const column = this.#next(2) === 0 ? 'secret' : 'hidden';
    const sealed = v[column];
    switch (this.#next(9)) {
      case 0:
        return masked(sealed, { showLast: 1 });
      case 1: {
        const to = AUDIENCES.filter((_name, i) => i === this.#next(3) || i === 2);
        this.allowed.push({ canary: canary(name, column), audiences: to, endpoints });
        return unseal(to as Any, this.#next(2) === 0 ? sealed : upper(sealed));
      }
      case 2:
        return given(this.#condition(v), { deep: v.open });
      case 3:
        return derive([v.open, masked(sealed)], text(), (a: Any, b: Any) => `${a} ${b}`);
      case 4: {
        const endpoint = ENDPOINTS[this.#next(3)] ?? 'list';
        return at({ [endpoint]: this.#member(name, v, [endpoint]), otherwise: constant(1) });
      }
      case 5:
        return given(this.#condition(v), this.#member(name, v, endpoints));
      case 6:
        return unlessNull(shorten(v.open, 3) as Any);
      default:
        return v.open;
    }
  }

  shapes(): ShapeOf<unknown> {
    let inner: Any = null;
    for (let level = 2; level >= 0; level--) {
      const name = ENTITIES[level] ?? 'c';
      const around = inner;
      inner = shape(db[name], (v: Any) => ({
        ...(this.#next(2) === 0 ? everything(v) : {}),
        one: this.#member(name, v, ENDPOINTS),
        two: this.#member(name, v, ENDPOINTS),
        ...(around === null
          ? {}
          : {
              ...(this.#next(3) === 0 ? around(v.to) : {}),
              group: { to: around(v.to) },
              many: around(some(v.many, { sort: ['id'], limit: 1 } as Any)),
              first: given(this.#condition(v), first(v.many, around)),
              count: count(v.many),
            }),
      }));
    }
    return inner;
  }
}

describe('seals', () => {
  it('let nothing out that was not unsealed for that audience at that endpoint', () => {
    const situations = fc.record({
      audience: fc.option(fc.constantFrom(...AUDIENCES), { nil: undefined }),
      endpoint: fc.option(fc.constantFrom(...ENDPOINTS), { nil: undefined }),
      wrapped: fc.nat(2),
    });
    const random = fc.record({
      choices: fc.array(fc.nat(9), { minLength: 30, maxLength: 60 }),
      situation: situations,
    });
    let canaries = 0;
    fc.assert(
      fc.property(random, ({ choices, situation: { audience: whom, endpoint, wrapped } }) => {
        const made = new RandomShapes(choices);
        const root: Any = made.shapes();
        const bodies = [list(root), page(root, {}), wrap(list(root), (content) => ({ data: content }))];
        const answer = { items: [rowOf(0)], number: 1, size: 1, total: 1, pages: 1 };
        const situation = {
          ...(whom === undefined ? {} : { audience: whom }),
          ...(endpoint === undefined ? {} : { endpoint }),
        };
        for (const engine of ENGINES) {
          const body = bodies[wrapped] as Any;
          const response = looseWriter(body, engine, situation)
            .json(wrapped === 0 ? answer.items : answer)
            .toUpperCase();
          for (const found of response.match(/CANARY-\w-\w+/g) ?? []) {
            canaries++;
            const isAllowed = made.allowed.some(
              (one) =>
                one.canary.toUpperCase() === found &&
                whom !== undefined &&
                one.audiences.includes(whom) &&
                (endpoint === undefined
                  ? one.endpoints.length === ENDPOINTS.length
                  : one.endpoints.includes(endpoint)),
            );
            expect(isAllowed, `${found} for ${whom} at ${endpoint}`).to.equal(true);
          }
        }
      }),
      runs(600),
    );
    // Something was let out on purpose: the property looked at real ways out.
    expect(canaries).to.be.above(100);
  });

  it('are refused wherever they are put without being unsealed', () => {
    const wrappers: readonly ((v: Any, sealed: Any) => Any)[] = [
      (_v, sealed) => sealed,
      (_v, sealed) => ({ deep: { deeper: sealed } }),
      (_v, sealed) => upper(shorten(sealed, 3)),
      (v, sealed) => derive([v.open, upper(sealed)], text(), (a: Any) => a),
      (_v, sealed) => given(audience('office'), sealed),
      (_v, sealed) => at({ list: given(asked('x'), { deep: sealed }) }),
      (_v, sealed) => unlessNull(sealed),
      (v) => v.to.to.secret,
      (v) => some(v.many, { sort: ['secret'] } as Any),
    ];
    for (const wrapper of wrappers) {
      const declared = (): unknown => shape(db.a, (v: Any) => ({ x: wrapper(v, v.secret) }));
      expect(declared, wrapper.toString()).to.throw(/sealed/);
    }
  });
});

describe('links over sealed columns', () => {
  const people: Any = model(
    {
      person: entity('person', { id: integer().key(), name: text(), friendId: integer() }),
      boat: entity('boat', { id: integer().key(), name: text(), ownerId: integer() }),
      profile: entity('profile', { id: integer().key(), about: text() }),
      letter: entity('letter', {
        id: integer().key(),
        subject: text(),
        writerId: integer().sealed('secret'),
        answersId: integer().sealed('secret'),
      }),
      reading: entity('reading', {
        letterId: integer().key().sealed('secret'),
        personId: integer().key(),
      }),
    } as Any,
    {
      person: {
        friend: toOne('person', 'friendId'),
        boats: toMany('boat', 'ownerId'),
        letters: toMany('letter', 'writerId'),
        profile: toOne('profile', 'id'),
        read: toMany('letter', { through: 'reading', from: 'personId', to: 'letterId' }),
      },
      letter: {
        writer: toOne('person', 'writerId'),
        answers: toOne('letter', 'answersId'),
        answeredBy: toMany('letter', 'answersId'),
      },
    } as Any,
  );
  const Person: Any = shape(people.person, (p: Any) => ({ id: p.id, name: p.name }), { name: 'Person' });
  const Name: Any = shape(people.person, (p: Any) => ({ name: p.name }), { name: 'Name' });
  const Letter: Any = shape(people.letter, (l: Any) => ({ subject: l.subject }), { name: 'Letter' });

  const messageOf = (declare: () => unknown): string => {
    try {
      declare();
    } catch (error) {
      return (error as Error).message;
    }
    return '';
  };
  const letter = (members: (row: Any) => Any): string =>
    messageOf(() => shape(people.letter, members, { name: 'Shown' }));
  const person = (members: (row: Any) => Any): string =>
    messageOf(() => shape(people.person, members, { name: 'Shown' }));

  const sealed = /this column is sealed \(secret\)/;

  it('do not let their key out through the row behind them', () => {
    expect(letter((l) => ({ by: l.writer.id }))).to.match(sealed);
    expect(
      letter((l) => ({ by: l.writer.profile.id })),
      'by a key that is equal',
    ).to.match(sealed);
    expect(letter((l) => ({ by: derive([l.writer.id], text(), String) }))).to.match(sealed);
    expect(letter((l) => ({ by: Person(l.writer) }))).to.match(sealed);
    expect(letter((l) => ({ ...Person(l.writer) }))).to.match(sealed);
    expect(letter((l) => ({ deep: { by: given(audience('x'), Person(l.writer)) } }))).to.match(sealed);
  });

  it('do not let it out through the rows that they are listed by', () => {
    expect(person((p) => ({ id: p.id, letters: Letter(p.letters) }))).to.match(sealed);
    expect(person((p) => ({ last: first(p.letters, Letter) }))).to.match(sealed);
    expect(person((p) => ({ read: Letter(some(p.read, { limit: 2 })) }))).to.match(sealed);
    const nested = () =>
      api({
        title: 'Letters',
        version: '1',
        endpoints: {
          letters: collection('/people/{writer}/letters', people.letter, {
            under: 'writer',
            list: list(Letter),
          } as Any),
        },
      } as Any);
    expect(messageOf(nested)).to.contain('its path would show writerId, which is sealed');
  });

  it('do not let it out through what is equal to it further on', () => {
    const Through: Any = shape(people.person, (p: Any) => ({ profile: p.profile.id }), { name: 'Through' });
    const Profile: Any = shape(people.profile, (p: Any) => ({ id: p.id }), { name: 'Profile' });
    const Inside: Any = shape(people.person, (p: Any) => ({ profile: Profile(p.profile) }), {
      name: 'Inside',
    });
    const Boat: Any = shape(people.boat, (b: Any) => ({ owner: b.ownerId }), { name: 'Boat' });
    const Owner: Any = shape(people.person, (p: Any) => ({ boats: Boat(p.boats) }), { name: 'Owner' });
    const First: Any = shape(people.person, (p: Any) => ({ boat: first(p.boats, Boat) }), { name: 'First' });
    for (const Shown of [Through, Inside, Owner, First]) {
      expect(
        letter((l) => ({ by: Shown(l.writer) })),
        Shown.plan.name,
      ).to.match(sealed);
    }
    expect(
      letter((l) => ({ boats: Boat(l.writer.boats) })),
      'rows that show it themselves',
    ).to.match(sealed);
    const Name: Any = shape(people.boat, (b: Any) => ({ name: b.name }), { name: 'BoatName' });
    expect(letter((l) => ({ boats: Name(l.writer.boats) }))).to.equal('');
  });

  it('do not let it out through everything, nor through a shape inside itself', () => {
    const All: Any = shape(people.letter, (l: Any) => ({ by: { ...everything(l.writer) } }), { name: 'All' });
    expect(All.plan.fields[0].node.fields.map(({ name }: Any) => name)).to.deep.equal(['name', 'friendId']);
    const tree = (members: (row: Any, self: Any) => Any): string =>
      messageOf(() => (recursive as Any)(people.letter, { depth: 3, name: 'Tree' }, members));
    expect(tree((l, self) => ({ id: l.id, answered: self(l.answers) }))).to.match(sealed);
    expect(tree((l, self) => ({ id: l.id, answers: self(l.answeredBy) }))).to.match(sealed);
    expect(tree((l, self) => ({ subject: l.subject, answered: self(l.answers) }))).to.equal('');
  });

  it('are looked through once, however often a shape is inside another', () => {
    const wide = (recursive as Any)(people.person, { depth: 60, name: 'Wide' }, (p: Any, self: Any) => ({
      name: p.name,
      one: self(p.friend),
      other: self(p.friend),
    }));
    expect(letter((l) => ({ by: wide(l.writer) }))).to.equal('');
  });

  it('show what is equal to no sealed column', () => {
    expect(letter((l) => ({ by: l.writer.name, also: Name(l.writer) }))).to.equal('');
  });

  it('do not let out how many rows name somebody, nor another figure of them', () => {
    expect(person((p) => ({ many: count(p.letters) }))).to.match(sealed);
    expect(person((p) => ({ last: maximum(p.letters, (l: Any) => l.id) }))).to.match(sealed);
    expect(person((p) => ({ many: unseal('office', count(p.letters)) }))).to.equal('');
  });

  it('show the rest to those for whom it is unsealed', () => {
    const Opened: Any = shape(people.letter, (l: Any) => ({
      by: unseal('office', l.writer.id),
      writer: unseal('office', Person(l.writer)),
    }));
    const Desk: Any = shape(people.person, (p: Any) => ({ letters: unseal(['office'], Letter(p.letters)) }));
    const row = { id: 1, subject: 's', writerId: 7, writer: { id: 7, name: 'Orla' } };
    for (const engine of ENGINES) {
      const write = (body: Any, audience: string | null, data: object) =>
        looseWriter(body, engine, { audience } as Any).json(data);
      expect(write(Opened, 'office', row)).to.equal('{"by":7,"writer":{"id":7,"name":"Orla"}}');
      expect(write(Opened, 'agent', row)).to.equal('{}');
      expect(write(Desk, 'office', { id: 7, letters: [row] })).to.equal('{"letters":[{"subject":"s"}]}');
      expect(write(Desk, null, { id: 7, letters: [row] })).to.equal('{}');
    }
  });
});
