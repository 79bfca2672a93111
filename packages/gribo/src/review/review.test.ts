import { expect } from 'chai';
import {
  amending,
  api,
  asked,
  at,
  atMost,
  audience,
  bool,
  callerOf,
  collection,
  constant,
  count,
  deprecated,
  derive,
  endpoint,
  entity,
  equals,
  everything,
  type Flow,
  first,
  given,
  holds,
  input,
  integer,
  isNull,
  lineage,
  list,
  lower,
  masked,
  model,
  not,
  optional,
  page,
  type ReviewOptions,
  type RowRule,
  review,
  rowRule,
  samples,
  shape,
  shorten,
  some,
  text,
  timestamp,
  toMany,
  toOne,
  unseal,
  weigh,
} from '../index.js';
import { fleet } from '../testing/fleet.js';

const Call = shape(
  fleet.portCall,
  (c) => ({
    id: c.id,
    eta: given(isNull(c.remarks), c.eta),
  }),
  {
    name: 'Call',
  },
);

const Vessel = shape(
  fleet.vessel,
  (v) => ({
    id: v.id,
    label: derive([v.name, v.operator.name], text(), (name, by) => `${name} ${by}`),
    short: shorten(v.name, 5),
    phone: unseal('office', v.masterPhone),
    hint: masked(v.masterPhone),
    size: { tonnage: v.tonnage },
    calls: Call(some(v.portCalls, { where: (c) => [equals(c.status, 'sailed')], sort: ['eta'], limit: 2 })),
    last: first(v.portCalls, Call),
    fleet: count(some(v.operator.vessels, { where: (o) => [isNull(o.callSign)] })),
    kind: given(asked('kind'), v.kind),
    built: given(asked('built'), v.builtYear),
    fixed: constant(1),
  }),
  { name: 'Vessel' },
);

const NewVessel = input(
  fleet.vessel,
  (v) => ({ name: v.name, by: { id: v.operatorId }, sign: optional(v.callSign), phone: v.masterPhone }),
  { name: 'NewVessel' },
);

const NewOperator = input(fleet.operator, (o) => ({ name: o.name }), { name: 'NewOperator' });
const NewCall = input(fleet.portCall, (c) => ({ eta: c.eta }), { name: 'NewCall' });

const office = api({
  title: 'Office',
  version: '1.0.0',
  audiences: ['public', 'office'],
  endpoints: {
    vessels: collection('/vessels', fleet.vessel, {
      list: page(Vessel, {}),
      read: Vessel,
      create: { takes: NewVessel },
      amend: { takes: amending(NewVessel, (members) => members) },
      filters: (v) => ({ kind: equals(v.kind) }),
      sort: ['builtYear'],
    }),
  },
});

describe('what a finding names', () => {
  it('is named where there are four, and counted behind three where there are more', () => {
    const Phone = shape(fleet.vessel, (v) => ({ id: v.id, phone: unseal('office', v.masterPhone) }));
    const messageOf = (times: number): string | undefined => {
      const endpoints = Object.fromEntries(
        Array.from({ length: times }, (_, i) => [
          `e${i}`,
          collection(`/e${i}`, fleet.vessel, { read: Phone }),
        ]),
      );
      const many = api({ title: 'Many', version: '1.0.0', audiences: ['office'], endpoints });
      return review(many).findings.find(({ code }) => code === 'unsealed')?.message;
    };
    expect(messageOf(4)).to.contain('at e0.read, e1.read, e2.read, e3.read.');
    expect(messageOf(6)).to.contain('at e0.read, e1.read, e2.read and 3 more.');
  });
});

describe('lineage', () => {
  const flows = lineage(office);
  const of = (column: string, at = 'vessels.read'): readonly string[] =>
    flows
      .filter((flow) => `${flow.entity}.${flow.column}` === column && flow.endpoint === at)
      .map(({ kind, member, conversions }) => [kind, member, ...conversions].join(' '));

  it('follows every column to where it gets out', () => {
    expect(of('vessel.name')).to.deep.equal(['computed label', 'converted short shorten']);
    expect(of('operator.name')).to.deep.equal(['computed label']);
    expect(of('vessel.masterPhone')).to.deep.equal(['converted hint masked', 'sent phone']);
    expect(of('vessel.tonnage')).to.deep.equal(['sent size.tonnage']);
    expect(of('portCall.eta')).to.deep.equal(['orders calls', 'sent calls[].eta', 'sent last.eta']);
    expect(of('portCall.eta', 'vessels.list')).to.include('sent items[].calls[].eta');
  });

  it('follows what decides, orders and filters', () => {
    expect(of('portCall.remarks')).to.deep.equal([
      'decides calls',
      'decides calls[].eta',
      'decides last.eta',
    ]);
    expect(of('portCall.status')).to.deep.equal(['decides calls']);
    expect(of('vessel.callSign')).to.deep.equal(['decides fleet']);
    expect(of('vessel.kind', 'vessels.list')).to.include('filters ?kind');
    expect(of('vessel.builtYear', 'vessels.list')).to.deep.equal(['sent items[].built', 'orders ?sort']);
  });

  it('follows what requests set', () => {
    expect(of('vessel.operatorId', 'vessels.create')).to.deep.equal(['set by.id']);
    expect(of('vessel.callSign', 'vessels.amend')).to.deep.equal(['set sign']);
    const Nested = input(
      fleet.vessel,
      (v) => ({ calls: optional(NewCall(v.portCalls)), operator: NewOperator(v.operator) }),
      { name: 'Nested' },
    );
    const nested = api({
      title: 'Nested',
      version: '1.0.0',
      endpoints: { vessels: collection('/vessels', fleet.vessel, { create: { takes: Nested } }) },
    });
    expect(lineage(nested).map(({ column, member }) => `${column} ${member}`)).to.have.members([
      'eta calls[].eta',
      'name operator.name',
    ]);
  });

  it('says for whom, under which seal, and what has to be asked', () => {
    const at = (column: string, member: string): Flow | undefined =>
      flows.find(
        (flow) => flow.column === column && flow.member === member && flow.endpoint === 'vessels.read',
      );
    expect(at('masterPhone', 'phone')).to.deep.include({ audiences: ['office'], sealed: 'personal' });
    expect(at('tonnage', 'size.tonnage')).to.deep.include({
      audiences: [null, 'public', 'office'],
      sealed: null,
    });
    expect(at('kind', 'kind')).to.deep.include({ asks: ['kind'] });
  });
});

const stock = model(
  {
    crate: entity('crate', {
      id: integer().key().generated(),
      name: text(),
      secret: text().sealed('finance'),
      hidden: text(),
      takenOnly: text(),
      madeAt: timestamp().generated(),
      shelfId: integer(),
    }),
    shelf: entity('shelf', { id: integer().key(), name: text() }),
    unused: entity('unused', { id: integer().key() }),
  },
  {
    crate: { shelf: toOne('shelf', 'shelfId') },
    shelf: { crates: toMany('crate', 'shelfId') },
  },
);

const Line = shape(stock.crate, (c) => ({ id: c.id, name: c.name }), { name: 'Line' });
const Shelf = shape(
  stock.shelf,
  (s) => ({
    id: s.id,
    bad_name: s.name,
    crates: at({ list: Line(s.crates), read: Line(some(s.crates, { limit: 3 })) }),
    more: at({ list: { a: s.name, b: s.name } }),
  }),
  { name: 'Shelf' },
);
const Crate = shape(
  stock.crate,
  (c) => ({
    id: c.id,
    secret: unseal('office', c.secret),
    name: given(not(audience('public')), c.name),
    old: deprecated(c.name, { sunset: '2026-01-31' }),
  }),
  { name: 'Crate' },
);
const All = shape(stock.shelf, (s) => ({ ...everything(s) }), { name: 'All' });
const NewCrate = input(
  stock.crate,
  (c) => ({ name: c.name, shelf: { id: c.shelfId }, TakenOnly: c.takenOnly, secret: c.secret }),
  { name: 'NewCrate' },
);

const store = api({
  title: 'Store',
  version: '1.0.0',
  audiences: ['public', 'office'],
  endpoints: {
    shelves: collection('/shelves', stock.shelf, { list: list(Shelf), read: Shelf }),
    crates: collection('/crates', stock.crate, {
      read: Crate,
      create: { takes: NewCrate, returns: Crate },
      deprecated: { sunset: '2026-01-31' },
    }),
    'all-shelves': endpoint('GET /all', { from: stock.shelf, returns: list(All) }),
  },
});

describe('a review of what callers are told', () => {
  const Line = shape(fleet.vessel, (v) => ({
    id: v.id,
    name: given(
      holds([v.masterPhone], (phone) => phone.length > 0),
      v.name,
    ),
    kind: given(
      holds([lower(v.masterPhone)], (phone) => phone.length > 0),
      v.kind,
    ),
  }));
  const Named = shape(fleet.operator, ({ id }) => ({ id }));
  const withRules = (rows: readonly RowRule[]) =>
    review(
      api({
        title: 'Told',
        version: '1',
        audiences: ['agent'],
        rows,
        endpoints: {
          vessels: collection('/vessels', fleet.vessel, { read: Line }),
          operators: collection('/operators', fleet.operator, { read: Named, audiences: ['agent'] }),
        },
      }),
    ).findings.map(({ code, place, message }) => `${code} ${place}: ${message}`);

  it('names conditions of code over sealed columns, and rows that no rule is for', () => {
    const rule = rowRule(fleet.vessel, (v) => isNull(v.callSign));
    expect(withRules([rule])).to.include.members([
      'told-by-code vessel.name: Its condition tests masterPhone, which is sealed (personal).',
      'told-by-code vessel.kind: Its condition tests masterPhone, which is sealed (personal).',
      'everybodys-rows operator: operators.read is for some audiences, and no rule says whose the rows are.',
    ]);
    expect(withRules([]).some((found) => found.startsWith('everybodys-rows'))).to.equal(false);
    expect(
      withRules([rule, rowRule(fleet.operator, (o) => isNull(o.parentId))]).some((found) =>
        found.startsWith('everybodys-rows'),
      ),
    ).to.equal(false);
  });
});

describe('a review of what row rules leave open', () => {
  const db = model(
    {
      org: entity('org', { id: integer().key().generated(), name: text().unique(), open: bool() }),
      person: entity('person', {
        id: integer().key(),
        orgId: integer(),
        name: text(),
        mail: text().sealed('personal'),
      }),
      project: entity('project', {
        id: integer().key().generated(),
        orgId: integer(),
        title: text().unique(),
        budget: integer(),
      }),
      member: entity('member', {
        id: integer().key().generated(),
        projectId: integer(),
        personId: integer(),
        role: text(),
      }),
    },
    {
      org: { people: toMany('person', 'orgId') },
      person: { org: toOne('org', 'orgId') },
      project: { org: toOne('org', 'orgId'), members: toMany('member', 'projectId') },
      member: { project: toOne('project', 'projectId'), person: toOne('person', 'personId') },
    },
  );
  const caller = callerOf({ personId: integer(), tenant: integer() });
  const Project = shape(db.project, ({ id, title }) => ({ id, title }));
  const Person = shape(db.person, (p) => ({ id: p.id, name: p.name, mail: masked(p.mail, { showLast: 2 }) }));
  const Member = shape(db.member, ({ id, role }) => ({ id, role }));
  const found = (rows: readonly RowRule[], codes: readonly string[]) =>
    review(
      api({
        title: 'Projects',
        version: '1',
        audiences: ['user'],
        caller,
        rows,
        endpoints: {
          projects: collection('/projects', db.project, {
            list: list(Project),
            read: Project,
            create: {
              takes: input(db.project, ({ title, budget, orgId }) => ({ title, budget, orgId })),
              returns: Project,
            },
            remove: true,
          }),
          people: collection('/people', db.person, {
            read: Person,
            amend: {
              takes: amending(
                input(db.person, ({ orgId }) => ({ orgId })),
                (members) => members,
              ),
              returns: Person,
            },
          }),
          orgs: collection('/orgs', db.org, {
            amend: {
              takes: amending(
                input(db.org, ({ open }) => ({ open })),
                (members) => members,
              ),
            },
          }),
          members: collection('/members', db.member, {
            create: {
              takes: input(db.member, (m) => ({
                projectId: m.projectId,
                personId: m.personId,
                role: m.role,
              })),
              returns: Member,
            },
            amend: {
              takes: amending(
                input(db.member, (m) => ({ personId: m.personId })),
                (members) => members,
              ),
              returns: Member,
            },
            read: Member,
          }),
        },
      }),
      { model: db },
    )
      .findings.filter(({ code }) => codes.includes(code))
      .map(({ code, place, message }) => `${code} ${place}: ${message}`);

  it('finds rules that those whom they are for can make true by a change', () => {
    const own = ['rule-by-own-change'];
    // By moving into another organisation, and by opening one.
    expect(
      found(
        [
          rowRule(db.project, (p) =>
            some(p.org.people, { where: (one) => [equals(one.id, caller.personId)] }),
          ),
        ],
        own,
      ),
    ).to.deep.equal([
      'rule-by-own-change person.orgId: It decides which rows of project are seen, and nobody in particular, user may set it at people.amend.',
    ]);
    expect(found([rowRule(db.project, (p) => equals(p.org.open, true))], own)).to.have.length(1);
    // A new member names its project, which has to be seen; one that is there may be given to somebody else.
    const byMembers = rowRule(db.project, (p) =>
      some(p.members, { where: (m) => [equals(m.personId, caller.personId)] }),
    );
    expect(found([byMembers], own)).to.deep.equal([
      'rule-by-own-change member.personId: It decides which rows of project are seen, and nobody in particular, user may set it at members.amend.',
    ]);
    expect(
      found([byMembers, rowRule(db.member, (m) => equals(m.personId, caller.personId))], own),
    ).to.deep.equal([]);
    expect(found([rowRule(db.project, (p) => equals(p.orgId, caller.tenant))], own)).to.deep.equal([]);
    // Its own row is changed by whoever it is about, and that is enough.
    const byPeople = rowRule(db.project, (p) =>
      some(p.org.people, { where: (one) => [equals(one.id, caller.personId)] }),
    );
    const oneself = rowRule(db.person, (p) => isNull(p.name), {
      change: (p) => equals(p.id, caller.personId),
    });
    expect(found([byPeople, oneself], own)).to.have.length(1);
  });

  it('finds links between rows of different rules, and none where both ends go by the same fact', () => {
    const other = ['other-rule-behind'];
    const tenant = rowRule(db.project, (p) => equals(p.orgId, caller.tenant));
    expect(found([tenant, rowRule(db.org, (o) => equals(o.id, caller.tenant))], other)).to.deep.equal([]);
    const ofProject = rowRule(db.member, (m) => equals(m.project.orgId, caller.tenant));
    expect(found([tenant, ofProject], other)).to.deep.equal([]);
    expect(
      found(
        [
          tenant,
          rowRule(db.org, (o) => equals(o.open, true)),
          rowRule(db.person, (p) => equals(p.orgId, caller.tenant)),
        ],
        other,
      ),
    ).to.deep.equal(['other-rule-behind org: project.org, person.org lead to it from rows of another rule.']);
  });

  it('finds each way in which what is hidden speaks', () => {
    const told = ['told-by-removal', 'told-by-conflict', 'told-by-mask', 'told-by-condition'];
    const rules = [
      rowRule(db.project, (p) => atMost(p.budget, 1000)),
      rowRule(db.member, (m) => equals(m.personId, caller.personId)),
    ];
    expect(found(rules, told)).to.deep.equal([
      'told-by-conflict project.title: It is unique, also among rows that are hidden, and set at projects.create: 409 tells that a row has the value already.',
      'told-by-condition project.budget: It decides which rows there are, for callers who are not sent it.',
      'told-by-condition member.personId: It decides which rows there are, for callers who are not sent it.',
      'told-by-mask person.mail: It is sealed, and goes out masked at people.read, people.amend.',
      'told-by-removal projects.remove: 409 tells that there are rows of member that need it, which some of its callers do not see.',
    ]);
    expect(found([], told)).to.deep.equal([
      'told-by-mask person.mail: It is sealed, and goes out masked at people.read, people.amend.',
    ]);
  });

  it('finds an order by what goes out shortened', () => {
    const Day = shape(stock.crate, (c) => ({ id: c.id, name: shorten(c.name, 3) }));
    const sorted = api({
      title: 'Crates',
      version: '1',
      endpoints: { crates: collection('/crates', stock.crate, { list: page(Day, { sort: ['name'] }) }) },
    });
    expect(review(sorted).findings.map(({ code, place }) => `${code} ${place}`)).to.include(
      'told-by-order crate.name',
    );
  });
});

describe('review', () => {
  const found = (options: ReviewOptions = {}): readonly string[] =>
    review(store, { model: stock, today: '2026-03-01', ...options }).findings.map(
      ({ severity, code, place }) => `${severity} ${code} ${place}`,
    );

  it('finds what is risky and undecided, the worst first', () => {
    expect(found()).to.deep.equal([
      'warning everything All',
      'warning unshown crate.hidden',
      'warning unshown crate.madeAt',
      'warning write-only crate.takenOnly',
      'warning never-created crates.create',
      'warning no-audience crates.read/name',
      'warning no-audience crates.create/name',
      'warning unbounded shelves.list/crates',
      'warning heavy-list shelves.list',
      'warning style Shelf.bad_name',
      'warning style NewCrate.TakenOnly',
      'warning style all-shelves',
      'warning overdue crates.read',
      'warning overdue crates.create',
      'warning overdue crates.read/old',
      'warning overdue crates.create/old',
      'note unsealed crate.secret',
      'note unshown unused',
    ]);
  });

  it('says what is so, and what to do', () => {
    for (const { message, advice } of review(store, { model: stock }).findings) {
      expect(message).to.match(/\.$/);
      expect(advice).to.match(/^[A-Z].*\.$/);
    }
    const [seal] = review(store).findings.filter(({ code }) => code === 'unsealed');
    expect(seal?.message).to.equal(
      'It is sealed (finance), and goes to office at crates.read, crates.create.',
    );
  });

  it('finds seals that nobody has decided about, shown or not', () => {
    const tables = model(
      {
        club: entity('club', {
          id: integer().key(),
          phone: text().sealed('undecided'),
          mail: text().sealed('personal'),
        }),
      },
      {},
    );
    const Club = shape(tables.club, (c) => ({ id: c.id, phone: unseal('office', c.phone) }));
    const clubs = api({
      title: 'Clubs',
      version: '1',
      audiences: ['office'],
      endpoints: { clubs: collection('/clubs', tables.club, { read: Club }) },
    });
    const undecided = review(clubs, { model: tables }).findings.filter(({ code }) => code === 'undecided');
    expect(undecided.map(({ place, severity }) => `${severity} ${place}`)).to.deep.equal([
      'warning club.phone',
    ]);
  });

  it('knows other styles, and days that have not come', () => {
    expect(found({ style: 'snake_case' }).filter((line) => line.includes(' style '))).to.deep.equal([
      'warning style NewCrate.TakenOnly',
      'warning style all-shelves',
    ]);
    expect(found({ today: '2026-01-31' }).filter((line) => line.includes('overdue'))).to.deep.equal([]);
  });

  it('finds endpoints without a sample', () => {
    const rows = samples(stock, { rows: { crate: 0 } });
    expect(found({ samples: rows }).filter((line) => line.includes('no-sample'))).to.deep.equal([
      'note no-sample crates.read',
      'note no-sample crates.create',
    ]);
  });

  it('takes findings of others, and accepts what has a reason', () => {
    const more = [{ code: 'drift', severity: 'error', place: 'crate', message: 'M.', advice: 'A.' }] as const;
    expect(found({ more })[0]).to.equal('error drift crate');
    const accepted = [
      { code: 'unshown', place: 'crate.*', reason: 'Inside only.' },
      { code: 'everything', place: 'All', reason: 'It is small.' },
      { code: 'style', place: 'Gone.member', reason: 'It was so.' },
    ] as const;
    const result = review(store, { model: stock, accepted });
    expect(result.accepted.map(({ place, reason }) => [place, reason])).to.deep.equal([
      ['All', 'It is small.'],
      ['crate.hidden', 'Inside only.'],
      ['crate.madeAt', 'Inside only.'],
    ]);
    const noLonger = result.findings.find(({ code }) => code === 'found-no-more');
    expect(noLonger).to.include({ place: 'Gone.member', severity: 'warning' });
  });

  it('finds nothing where there is nothing', () => {
    const Small = shape(stock.shelf, (s) => ({ id: s.id, name: s.name }));
    const Few = shape(stock.shelf, (s) => ({
      id: s.id,
      crates: Line(some(s.crates, { limit: 2 })),
    }));
    const Inside = shape(stock.crate, (c) => ({
      id: c.id,
      hint: masked(c.secret),
      name: given(not(audience('office')), c.name),
    }));
    const small = api({
      title: 'Small',
      version: '1.0.0',
      audiences: ['office'],
      endpoints: {
        shelves: collection('/shelves', stock.shelf, { list: list(Small), read: Small }),
        few: endpoint('GET /few', { from: stock.shelf, returns: list(Few) }),
        inside: collection('/inside', stock.crate, { read: Inside, audiences: ['office'] }),
      },
    });
    const found = review(small).findings.map(({ code, place }) => `${code} ${place}`);
    expect(found).to.deep.equal([
      'unshown crate.hidden',
      'unshown crate.takenOnly',
      'unshown crate.madeAt',
      'unshown crate.shelfId',
      'told-by-mask crate.secret',
    ]);
  });
});

describe('weigh', () => {
  it('counts the bytes of every member, and all of them make the whole', () => {
    const rows = [
      { id: 1, name: 'Ä"', shelfId: 1 },
      { id: 22, name: '🐦', shelfId: 1 },
    ];
    const Two = shape(stock.crate, (c) => ({ id: c.id, deep: { name: c.name } }));
    const weight = weigh(list(Two), rows);
    const text = '[{"id":1,"deep":{"name":"Ä\\""}},{"id":22,"deep":{"name":"🐦"}}]';
    expect(weight.bytes).to.equal(Buffer.byteLength(text));
    const [row] = weight.members;
    expect(row).to.deep.equal({
      name: '[]',
      bytes: Buffer.byteLength(text) - 3,
      count: 2,
      members: [
        { name: 'id', bytes: 13, count: 2, members: [] },
        {
          name: 'deep',
          bytes: Buffer.byteLength('"deep":{"name":"Ä\\""}"deep":{"name":"🐦"}'),
          count: 2,
          members: [
            { name: 'name', bytes: Buffer.byteLength('"name":"Ä\\"""name":"🐦"'), count: 2, members: [] },
          ],
        },
      ],
    });
    expect(weigh(list(Two), [])).to.deep.equal({ name: '[]', bytes: 2, count: 1, members: [] });
  });
});

describe('what is risky where an API is served', () => {
  const secret = entity('member', {
    id: integer().key().generated(),
    code: text().unique().sealed('secret'),
    name: text(),
    clubId: integer().nullable(),
  });
  const club = entity('club', { id: integer().key().generated(), name: text() });
  const db = model({ member: secret, club }, { club: { members: toMany('member', 'clubId') } });
  const Member = shape(db.member, (m) => ({ id: m.id, name: given(audience('office'), m.name) }), {
    name: 'Member',
  });
  const Club = shape(db.club, (c) => ({ id: c.id, name: c.name }), { name: 'Club' });
  const NewMember = input(db.member, (m) => ({ name: m.name, code: m.code }), { name: 'NewMember' });
  const NewClub = input(db.club, (c) => ({ more: { name: c.name, members: NewMember(c.members) } }), {
    name: 'NewClub',
  });
  const clubs = api({
    title: 'Clubs',
    version: '1.0.0',
    audiences: ['office'],
    endpoints: {
      members: collection('/members', db.member, { read: Member, create: { takes: NewMember } }),
      clubs: collection('/clubs', db.club, { read: Club, create: { takes: NewClub } }),
    },
  });
  const found = (code: string, serving: ReviewOptions['serving'] = {}): readonly string[] =>
    review(clubs, { serving })
      .findings.filter((finding) => finding.code === code)
      .map(({ place, message }) => `${place}: ${message}`);

  it('is forms where callers are told apart', () => {
    expect(found('forms', { audience: true, formats: ['json', 'form'] })).to.deep.equal([
      'formats: Forms are read at members.create, clubs.create, and browsers send them without asking first.',
    ]);
    expect(found('forms', { audience: true, formats: ['json'] })).to.deep.equal([]);
    expect(found('forms', { formats: ['form'] })).to.deep.equal([]);
    expect(found('forms')).to.deep.equal([]);
  });

  it('is keeping what is not the same for everybody', () => {
    const cache = { 'members.read': 60, 'clubs.read': 60 };
    expect(found('kept-for-some', { cache })).to.deep.equal([
      'members.read: It is kept for 60 seconds, and is not the same for everybody.',
    ]);
    expect(found('kept-for-some', { cache: { 'members.read': 0 } })).to.deep.equal([]);
  });

  it('is a body with very many rows', () => {
    expect(found('many-rows', { rows: 50_000 })).to.deep.equal([
      'clubs.create: A body may bring up to 50000 rows of members.',
    ]);
    expect(found('many-rows', { rows: 10_000 })).to.deep.equal([]);
    expect(found('many-rows')).to.deep.equal([]);
  });

  it('is a sealed unique value that a conflict tells of', () => {
    expect(found('told-by-conflict')).to.deep.equal([
      'member.code: It is sealed and unique, and set at members.create, clubs.create: 409 tells that a row has the value already.',
    ]);
  });
});

describe('columns that only link', () => {
  it('are shown by a to-one link over them, and not by the rows that refer to them', () => {
    const one = entity('one', { id: integer().key(), twoId: integer() });
    const two = entity('two', { id: integer().key(), name: text() });
    const db = model(
      { one, two },
      { one: { two: toOne('two', 'twoId') }, two: { ones: toMany('one', 'twoId') } },
    );
    const One = shape(db.one, (o) => ({ id: o.id }), { name: 'One' });
    const Two = shape(db.two, (t) => ({ name: t.name }), { name: 'Two' });
    const both = api({
      title: 'Both',
      version: '1.0.0',
      endpoints: {
        ones: collection('/ones', db.one, { list: list(One) }),
        twos: collection('/twos', db.two, { list: list(Two) }),
      },
    });
    const places = review(both, { model: db })
      .findings.filter(({ code }) => code === 'unshown')
      .map(({ place }) => place);
    expect(places).to.deep.equal(['two.id']);
  });
});
