/** A mistake that people make: what it is, and the code of it, over the declarations of the harbour. */
export type Mistake = readonly [title: string, code: string];

const inShape = (title: string, literal: string): Mistake => [
  title,
  `shape(db.vessel, (v) => (${literal}), { name: 'Card' });`,
];

const SHAPES: readonly Mistake[] = [
  inShape('a column that is not there', '{ name: v.nme }'),
  ['an entity that is not there', 'shape(db.vesel, (v) => ({ id: v.id }));'],
  inShape('a sealed column', '{ phone: v.masterPhone }'),
  inShape('a sealed column, converted', '{ phone: upper(v.masterPhone) }'),
  inShape(
    'a sealed column, computed with',
    '{ phone: derive([v.masterPhone], text(), (phone) => phone ?? "") }',
  ),
  inShape('a sealed column behind a link', '{ phone: v.operator.phone }'),
  inShape('a sealed column in a group', '{ master: { phone: v.masterPhone } }'),
  inShape('a value that is no member', '{ version: 1 }'),
  inShape('a whole row', '{ operator: v.operator }'),
  inShape('many rows', '{ calls: v.portCalls }'),
  inShape('a shape that is not called', '{ operator: OperatorBrief }'),
  inShape('a shape over another entity', '{ operator: OperatorBrief(v) }'),
  inShape('a shape called with a column', '{ operator: OperatorBrief(v.operatorId) }'),
  inShape('?? between members', '{ label: v.callSign ?? v.name }'),
  inShape('|| between members', '{ label: v.callSign || v.name }'),
  inShape('&& between members', '{ label: v.callSign && v.name }'),
  inShape('? : between members', '{ label: v.callSign ? v.callSign : v.name }'),
  inShape('a text made of members', '{ label: `$' + '{v.name}` }'),
  inShape('an addition of members', "{ label: v.name + '!' }"),
  inShape('a property of the value', '{ length: v.name.length }'),
  inShape('a method of the value', '{ name: v.name.trim() }'),
  inShape('derive without a type', '{ name: derive([v.name], (name) => name) }'),
  inShape('derive that returns another type', '{ name: derive([v.name], text(), (name) => name.length) }'),
  inShape('derive that forgets null', '{ sign: derive([v.callSign], text(), (sign) => sign.trim()) }'),
  inShape('derive that returns null', '{ sign: derive([v.callSign], text(), (sign) => sign) }'),
  inShape('a conversion of another type', '{ name: dateOnly(v.name) }'),
  inShape('a conversion of another kind of text', '{ name: rounded(v.name) }'),
  inShape('a choice without a label', "{ kind: labelled(v.kind, { bulk: 'Bulk', tanker: 'Tanker' }) }"),
  inShape('a count of one row', '{ calls: count(v.operator) }'),
  inShape('the first row by a shape over another entity', '{ last: first(v.portCalls, OperatorBrief) }'),
  inShape(
    'rows sorted by a column that is not there',
    "{ calls: count(some(v.portCalls, { sort: ['etaa'] })) }",
  ),
  inShape('rows sorted as SQL would say it', "{ calls: count(some(v.portCalls, { sort: ['eta DESC'] })) }"),
  inShape(
    'a comparison with another type',
    '{ calls: count(some(v.portCalls, { where: (c) => [equals(c.eta, 5)] })) }',
  ),
  inShape(
    'a comparison with a choice that is none',
    "{ calls: count(some(v.portCalls, { where: (c) => [equals(c.status, 'arived')] })) }",
  ),
  inShape('a selection with an option that is none', '{ calls: count(some(v.portCalls, { max: 5 })) }'),
  inShape('an audience where a condition belongs', "{ tonnage: given('agent', v.grossTonnage) }"),
  inShape('an audience that is misspelt', "{ tonnage: given(names.audience('agnet'), v.grossTonnage) }"),
  inShape('an endpoint that is misspelt', '{ name: names.at({ raed: v.name }) }'),
  inShape(
    'a name to ask for that is misspelt',
    "{ operator: given(names.asked('oprator'), v.operator.name) }",
  ),
  inShape(
    'a seal lifted for an audience that is misspelt',
    "{ phone: names.unseal('harbourmaster', v.masterPhone) }",
  ),
  inShape('a seal lifted where there is none', "{ name: unseal('agent', v.name) }"),
  inShape('null left out of a group', '{ about: unlessNull({ name: v.name }) }'),
  inShape('a fallback for what is never null', '{ label: orElse(v.name, v.callSign) }'),
  inShape('a fallback of another kind', '{ label: orElse(v.callSign, v.builtYear) }'),
  inShape('a fallback that is no member', "{ label: orElse(v.callSign, 'none') }"),
  inShape('a constant that is no JSON', '{ made: constant(new Date()) }'),
  inShape('a constant in braces of its own', "{ kind: { value: 'vessel' } }"),
  inShape('a row that is spread', '{ ...v.operator }'),
  [
    'a member of another shape’s row',
    'shape(db.vessel, (v) => ({ quays: shape(db.quay, () => ({ name: v.name }))(v.operator as never) }));',
  ],
  [
    'a recursive shape without a depth',
    'recursive(db.quay, {}, (q, self) => ({ id: q.id, parts: self(q.parts) }));',
  ],
];

const MODELS: readonly Mistake[] = [
  [
    'a link to an entity that is not there',
    "model({ vessel, operator }, { vessel: { operator: toOne('oprator', 'operatorId') } });",
  ],
  [
    'a link over a column that is not there',
    "model({ vessel, operator }, { vessel: { operator: toOne('operator', 'oprId') } });",
  ],
  [
    'a link to many over a column that is not there',
    "model({ vessel, operator }, { operator: { vessels: toMany('vessel', 'oprId') } });",
  ],
  [
    'links of an entity that is not there',
    "model({ vessel, operator }, { vesel: { operator: toOne('operator', 'operatorId') } });",
  ],
  ['an entity under another name', 'model({ boat: vessel, operator }, {});'],
  ['an entity without a key', "entity('buoy', { name: text() });"],
  ['a key that may be null', "entity('buoy', { id: integer().key().nullable() });"],
  ['a column that is a type of the language', "entity('buoy', { id: integer().key(), name: String });"],
  [
    'an option of a column that is misspelt',
    "entity('buoy', { id: integer().key(), name: text({ maxLength: 3 }) });",
  ],
];

const inInput = (title: string, literal: string): Mistake => [
  title,
  `input(db.vessel, (v) => (${literal}), { name: 'New' });`,
];

const INPUTS: readonly Mistake[] = [
  inInput('an input of what the database makes', '{ id: v.id, name: v.name }'),
  inInput('an input of what is computed', '{ name: derive([v.name], text(), (name) => name) }'),
  inInput('an input of another row’s column', '{ operatorName: v.operator.name }'),
  inInput('an input nested over another link', '{ calls: NewCargo(v.portCalls) }'),
  inInput('an input by a conversion without a way back', '{ name: shorten(v.name, 5) }'),
  inInput('a column that is set twice', '{ name: v.name, title: v.name }'),
  inInput('a preset of another type', "{ name: v.name, built: preset(v.builtYear, 'new') }"),
  inInput('a preset that is no choice', "{ name: v.name, kind: preset(v.kind, 'raft') }"),
  inInput('?? between columns', '{ name: v.name ?? v.callSign }'),
  ['a patch of a member that is not there', 'amending(NewVessel, ({ nme, ...rest }) => rest);'],
  ['a patch without its members', 'amending(NewVessel);'],
  ['a reader of a shape', 'reader(VesselCard);'],
  ['an object where JSON is read', "reader(NewVessel).json({ name: 'Anselma' });"],
  [
    'a member of a change under the body’s name',
    'const got = reader(NewVessel).object({}); if (got.ok) got.value.flag;',
  ],
  ['a change that is taken without looking', 'reader(NewVessel).object({}).value.name;'],
];

const inCollection = (title: string, options: string): Mistake => [
  title,
  `collection('/vessels', db.vessel, { ${options} });`,
];

const APIS: readonly Mistake[] = [
  inCollection('a list of one shape', 'list: VesselCard'),
  inCollection('a list that is read', 'read: list(VesselCard)'),
  inCollection('a body over another entity', 'read: OperatorDetail'),
  inCollection('a list over another entity', 'list: list(OperatorBrief)'),
  inCollection('a patch by an input that is none', 'amend: { takes: NewVessel, returns: VesselDetail }'),
  inCollection('a new row by a patch', 'create: { takes: EditVessel, returns: VesselDetail }'),
  inCollection('an input over another entity', 'create: { takes: NewPortCall, returns: VesselDetail }'),
  inCollection('an input where an operation belongs', 'create: NewVessel'),
  inCollection('an operation that is not there', 'delete: true, read: VesselDetail'),
  inCollection('a setting that is misspelt', "list: list(VesselCard), sorts: ['name']"),
  inCollection(
    'an option of an operation that is misspelt',
    'create: { input: NewVessel, returns: VesselDetail }',
  ),
  inCollection('a list sorted by a column that is not there', "list: list(VesselCard), sort: ['nme']"),
  inCollection('a list sorted by a sealed column', "list: list(VesselCard), sort: ['masterPhone']"),
  inCollection('a parent behind a link to many', "list: list(VesselCard), under: 'portCalls'"),
  inCollection(
    'a filter by a sealed column',
    'list: list(VesselCard), filters: (v) => ({ phone: equals(v.masterPhone) })',
  ),
  inCollection(
    'a filter with a value',
    "list: list(VesselCard), filters: (v) => ({ flag: equals(v.flagState, 'QA') })",
  ),
  ['a page sorted by a column that is not there', "page(VesselCard, { sort: ['nme'] });"],
  ['a page with an option that is misspelt', "page(VesselCard, { sorts: ['name'] });"],
  ['a page of no rows', 'page(VesselCard, { size: 0 });'],
  ['a route that is none', "endpoint('FETCH /vessels/{id}', { from: db.vessel, returns: VesselDetail });"],
  ['a route without its method', "endpoint('/vessels/{id}', { from: db.vessel, returns: VesselDetail });"],
  [
    'an endpoint of another entity',
    "endpoint('GET /vessels/{id}', { from: db.vessel, returns: OperatorDetail });",
  ],
  [
    'an endpoint with an option that is misspelt',
    "endpoint('GET /vessels/{id}', { from: db.vessel, returns: VesselDetail, audience: ['agent'] });",
  ],
  [
    'an audience that nobody declared',
    "api({ title: 'T', version: '1', audiences: ['agent'], endpoints: { calls: collection('/calls', db.cargoItem, { list: list(CargoLine), audiences: ['agnet'] }) } });",
  ],
  [
    'a parameter that is no key',
    "api({ title: 'T', version: '1', endpoints: { read: endpoint('GET /vessels/{number}', { from: db.vessel, returns: VesselName }) } });",
  ],
  [
    'a route that is there twice',
    "api({ title: 'T', version: '1', endpoints: { a: endpoint('GET /vessels', { from: db.vessel, returns: list(VesselCard) }), b: endpoint('GET /vessels', { from: db.vessel, returns: list(VesselCard) }) } });",
  ],
  ['an endpoint that is a shape', "api({ title: 'T', version: '1', endpoints: { vessels: VesselCard } });"],
];

const USES: readonly Mistake[] = [
  [
    'the response of an endpoint that is not there',
    "type Reply = ResponseOf<typeof harbour, 'vessels.raed'>;",
  ],
  [
    'the response for an audience that is not there',
    "type Reply = ResponseOf<typeof harbour, 'vessels.read', 'agnet'>;",
  ],
  ['the request of an endpoint that is not there', "type Sent = RequestOf<typeof harbour, 'vessels.creat'>;"],
  ['a writer for an audience that is not there', "writer(VesselDetail, { audience: 'agnet' });"],
  ['a writer for an endpoint that is not there', "writer(Berth, { endpoint: 'berths.raed' });"],
  ['a situation of an audience that is not there', "situationOf(harbour, { audience: 'agnet' });"],
  ['asking for what is not there', "writer(VesselCard, { asked: ['oprator'] });"],
  ['a field that is not there', "writer(VesselCard, { fields: ['nme'] });"],
  ['a situation with a part that is misspelt', "writer(VesselCard, { audiences: ['agent'] });"],
  ['what to load for an audience that is not there', "loadPlan(VesselDetail, { audience: 'agnet' });"],
  ['one row for many', 'writer(list(VesselCard)).json({ id: 1 });'],
  ['many rows for one', 'writer(VesselCard).json([{ id: 1 }]);'],
  ['rows for a page', 'writer(page(VesselCard)).json([{ id: 1 }]);'],
  ['a row with a column that is misspelt', "writer(VesselCard).json({ id: 1, nme: 'Anselma' });"],
  ['a row with a value of another type', "writer(VesselCard).json({ id: '1', name: 'Anselma' });"],
  ['a row that lacks a column', 'writer(VesselCard).json({ id: 1 });'],
  [
    'a member of a response that is not there',
    'const nameIn = (card: Output<typeof VesselCard>) => card.nme;',
  ],
  [
    'a member of a response that may be null',
    'const sign = (card: Output<typeof VesselCard>) => card.callSign.trim();',
  ],
  [
    'a member of a response that may not be there',
    'const phone = (vessel: Output<typeof VesselDetail>): string | null => vessel.masterPhone;',
  ],
  [
    'a stored row with a column that is missing',
    'const row: RowFor<typeof db.pilotage> = { portCallId: "x", pilotId: 1 };',
  ],
  ['rows of an entity that is not there', 'memoryStore(db, { vesel: [] });'],
];

const serving = (title: string, options: string): Mistake => [
  title,
  `serve(harbour, { store: memoryStore(db), ${options} });`,
];

const SERVERS: readonly Mistake[] = [
  ['a server without a store', 'serve(harbour, {});'],
  serving('a handler of an endpoint that is not there', "handlers: { 'vessels.raed': () => null }"),
  serving('a handler that returns another row', "handlers: { 'vessels.read': () => ({ nme: 'Anselma' }) }"),
  serving('a handler that returns one row for many', "handlers: { 'berths.list': () => ({ id: 1 }) }"),
  serving(
    'rows loaded by a column that is not there',
    "handlers: { 'berths.list': ({ load }) => load.rows({ where: { nmae: 1 } }) }",
  ),
  serving(
    'rows loaded in an order that is not there',
    "handlers: { 'berths.list': ({ load }) => load.rows({ sort: ['nme'] }) }",
  ),
  serving(
    'a change with a value of another type',
    "handlers: { 'vessels.create': ({ input, proceed }) => proceed({ ...input, name: 5 }) }",
  ),
  serving(
    'a change with a column that is not there',
    "handlers: { 'vessels.create': ({ input, proceed }) => proceed({ ...input, nme: 'A' }) }",
  ),
  serving(
    'a parameter that is not in the path',
    "handlers: { 'vessels.read': ({ parameters, load }) => load.row(parameters.number) }",
  ),
  serving('responses kept of an endpoint that is not there', "cache: { 'vessels.raed': 60 }"),
  serving('a caller of an audience that is not there', "caller: () => ({ audience: 'agnet' })"),
  serving('an option that is misspelt', 'handler: {}'),
  [
    'an answer of an endpoint that is not there',
    "respond(harbour, 'vessels.raed', { id: 1 }, { request: new Request('http://a.test') });",
  ],
  [
    'an answer of many rows for one',
    "respond(harbour, 'vessels.read', [{ id: 1 }], { request: new Request('http://a.test') });",
  ],
];

/** What is there for each mistake to be made with. */
export const HEAD = `import {
  amending, api, audience, collection, constant, count, dateOnly, derive, endpoint, entity, equals, first, given, input,
  integer, labelled, list, loadPlan, memoryStore, model, orElse, type Output, page, preset, reader, recursive, type RequestOf,
  type ResponseOf, rounded, type RowFor, shape, shorten, situationOf, some, text, toMany, toOne, unlessNull, unseal, upper, writer,
} from 'gribo';
import { respond, serve } from '@gribo/http';
import { harbour } from './api.js';
import { EditVessel, NewCargo, NewPortCall, NewVessel } from './inputs.js';
import { db } from './model.js';
import { names } from './names.js';
import { Berth, CargoLine, OperatorBrief, OperatorDetail, VesselCard, VesselDetail, VesselName } from './shapes.js';
const operator = entity('operator', { id: integer().key(), name: text() });
const vessel = entity('vessel', { id: integer().key(), name: text(), operatorId: integer().nullable() });
export {};
`;

/** Every mistake that is tried, a section for each part of a program. */
export const MISTAKES: Readonly<Record<string, readonly Mistake[]>> = {
  Shapes: SHAPES,
  Models: MODELS,
  Inputs: INPUTS,
  APIs: APIS,
  'Writers and types': USES,
  Servers: SERVERS,
};
