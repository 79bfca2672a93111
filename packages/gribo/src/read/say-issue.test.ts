import { expect } from 'chai';
import {
  amending,
  bigint,
  bool,
  bytes,
  type Came,
  date,
  decimal,
  duration,
  entity,
  type IssueCode,
  type IssueLimits,
  type IssueReason,
  input,
  integer,
  json,
  labelled,
  model,
  oneOf,
  optional,
  reader,
  real,
  type SayIssue,
  type SyntaxWanted,
  sayIssue,
  text,
  time,
  timestamp,
  toMany,
  uuid,
  type Wanted,
} from '../index.js';

/** Ein vollständiger Katalog: the table of codes is exhaustive, so one that is added asks for its words. */
const grenzen = ({ min, max }: IssueLimits): string => {
  if (min !== undefined && max !== undefined) return ` von ${min} bis ${max}`;
  if (min !== undefined) return ` ab ${min}`;
  return max === undefined ? '' : ` bis ${max}`;
};
const ERWARTET: { readonly [W in Wanted]?: (limits: IssueLimits) => string } = {
  text: (limits) =>
    limits.pattern === undefined
      ? `Text der Länge${grenzen(limits)}`
      : `Text nach dem Muster ${limits.pattern}`,
  integer: (limits) => `eine ganze Zahl${grenzen(limits)}`,
  bigint: (limits) => `eine ganze Zahl${grenzen(limits)}, große als Text`,
  real: (limits) => `eine Zahl${grenzen(limits)}`,
  decimal: ({ whole, fraction }) => `höchstens ${whole} Stellen vor und ${fraction} nach dem Punkt`,
  bool: () => 'wahr oder falsch',
  date: () => 'ein Tag als JJJJ-MM-TT',
  time: () => 'eine Uhrzeit als HH:MM:SS',
  duration: () => 'eine Dauer wie PT6H30M',
  timestamp: () => 'ein Zeitpunkt mit Zeitzone',
  uuid: () => 'eine UUID',
  json: ({ depth }) => `ein JSON-Wert${depth === undefined ? '' : ` mit höchstens ${depth} Ebenen`}`,
  bytes: ({ max }) => `Base64${max === undefined ? '' : `, höchstens ${max} Bytes`}`,
  oneOf: ({ choices = [] }) => `eines von ${choices.join(', ')}`,
  object: () => 'ein Objekt',
  array: () => 'eine Liste',
};
const erwartet = (wanted: Wanted | null, limits: IssueLimits): string =>
  wanted === null ? '' : (ERWARTET[wanted]?.(limits) ?? 'ein Wert');
const GEKOMMEN: { readonly [K in Came['kind']]: string } = {
  nothing: 'nichts',
  null: 'null',
  text: '',
  number: '',
  bool: '',
  array: 'eine Liste',
  object: 'ein Objekt',
  other: 'etwas anderes',
};
const SYNTAX: { readonly [W in SyntaxWanted]: string } = {
  value: 'ein Wert',
  end: 'das Ende',
  name: 'ein Name in Anführungszeichen',
  colon: '„:“',
  commaOrBrace: '„,“ oder „}“',
  commaOrBracket: '„,“ oder „]“',
  quote: 'das Ende des Textes',
  escape: 'eine Maskierung',
};
const GRÜNDE: Readonly<Record<string, (reason: IssueReason) => string>> = {
  utf8: () => 'Die Bytes sind kein UTF-8.',
  json: ({ wanted = 'value', line, column }) =>
    `Kein JSON: in Zeile ${line}, Spalte ${column} fehlt ${SYNTAX[wanted]}.`,
  twice: () => 'Das Feld steht zweimal da.',
};
const größe = ({ bytes: b, depth, items, issues }: IssueLimits): string =>
  [
    b === undefined ? '' : `Höchstens ${b} Bytes.`,
    depth === undefined ? '' : `Höchstens ${depth} Ebenen.`,
    items === undefined ? '' : `Höchstens ${items} Felder.`,
    issues === undefined ? '' : `Mehr als ${issues} Fehler.`,
  ].join('');
const KATALOG: { readonly [C in IssueCode]: SayIssue } = {
  type: (issue) => KATALOG.format(issue),
  range: (issue) => KATALOG.format(issue),
  length: (issue) => KATALOG.format(issue),
  pattern: (issue) => KATALOG.format(issue),
  choice: (issue) => KATALOG.format(issue),
  format: ({ wanted, limits, came }) => {
    return `Erwartet: ${erwartet(wanted, limits)}; gekommen: ${came === null ? '' : GEKOMMEN[came.kind] + came.text}.`;
  },
  required: ({ wanted, limits }) => `Es fehlt: ${erwartet(wanted, limits)}.`,
  unknown: ({ near }) => `Das Feld gibt es nicht.${near.length === 0 ? '' : ` Gemeint: ${near.join(', ')}?`}`,
  null: () => 'Hier muss etwas stehen.',
  fixed: ({ limits }) => `Das steht fest, seit ${limits.entity} angelegt wurde.`,
  limit: ({ wanted, limits }) => (wanted === null ? größe(limits) : `Höchstens ${limits.depth} Ebenen.`),
  conflict: () => 'Es passt nicht zum Bestand.',
  syntax: ({ reason }) => (reason === null ? '' : (GRÜNDE[reason.name]?.(reason) ?? reason.name)),
};
const deutsch: SayIssue = (issue) => KATALOG[issue.code](issue);

const db = model(
  {
    thing: entity('thing', {
      id: integer().key().generated(),
      text: text({ min: 2, max: 4, pattern: /^[a-z]*$/ }),
      int: integer({ min: 1, max: 9 }),
      big: bigint({ min: 0n }),
      real: real({ max: 1 }),
      dec: decimal(4, 2),
      flag: bool(),
      day: date(),
      clock: time(),
      span: duration(),
      at: timestamp(),
      uid: uuid(),
      raw: bytes({ max: 2 }),
      kind: oneOf('a', 'b'),
      any: json<unknown>(),
    }),
    part: entity('part', { id: integer().key().generated(), thingId: integer(), name: text() }),
  },
  { thing: { parts: toMany('part', 'thingId') } },
);
const Part = input(db.part, ({ name }) => ({ name }));
const Thing = input(db.thing, ({ id: _id, parts, kind, ...columns }) => ({
  ...columns,
  kind: optional(labelled(kind, { a: 'erstes', b: 'zweites' })),
  parts: optional(Part(parts)),
}));
const Change = amending(Thing, ({ text: _text, ...rest }) => rest);

const deep = `${'['.repeat(300)}${']'.repeat(300)}`;
/** Bodies that have everything wrong that can be. */
const BODIES = [
  '{}',
  '{"text":"x","int":0,"big":-1,"real":2,"dec":"1.234","flag":1,"day":"soon","clock":"25","span":"P","at":"x","uid":"x","raw":"////","kind":"c","any":1,"parts":{}}',
  '{"text":"XXX","int":null,"big":"x","real":[],"dec":{},"flag":null,"day":1,"clock":true,"span":true,"at":1,"uid":1,"raw":"x","kind":1,"any":null,"parts":[1,{"nme":"x"}],"txt":1}',
  `{"any":${deep}}`,
  '[1,2',
  '{"a":1,"a":2}',
  '{"a" 1}',
  '{a}',
  '{"a":1 "b"}',
  '[1 2]',
  '"\u0001"',
  '"\\x"',
  '1 2',
  '',
  Uint8Array.of(0xff),
  `[${'{"x":1},'.repeat(150)}1]`,
];

describe('the words of issues', () => {
  it('are found from data alone: a whole German catalogue never meets an English word', () => {
    const codes = new Set<string>();
    const wanted = new Set<string>();
    for (const body of BODIES) {
      for (const of of [Thing, Change]) {
        const limited = [{}, { depth: 1000 }, { bytes: 20 }, { items: 2 }];
        for (const limits of limited) {
          const got = reader(of, { ...limits, say: deutsch }).json(body);
          for (const issue of got.ok ? [] : got.issues) {
            codes.add(issue.code);
            wanted.add(issue.wanted ?? '');
            expect(issue.message).to.match(/^\p{Lu}.*[.?]$/u);
            expect(issue.message).not.to.match(/\b(?:the|expected|got|must|body|there|member|undefined)\b/i);
          }
        }
      }
    }
    const many = Object.fromEntries(Array.from({ length: 150 }, (_, i) => [`x${i}`, 1]));
    const got = reader(Thing, { say: deutsch }).object(many);
    expect(got.ok ? [] : got.issues.map(({ message }) => message)).to.include('Mehr als 100 Fehler.');
    // All but what only a store can say.
    expect([...codes, 'conflict'].sort()).to.deep.equal(Object.keys(KATALOG).sort());
    expect([...wanted].filter((kind) => kind !== '').sort()).to.deep.equal(Object.keys(ERWARTET).sort());
  });

  it('are English otherwise, for every one of them', () => {
    for (const body of BODIES) {
      const got = reader(Thing, { depth: 1000, say: sayIssue }).json(body);
      for (const { message } of got.ok ? [] : got.issues) {
        expect(message).to.match(/^[A-Z].*[.?]$/);
        expect(message).not.to.match(/undefined|something else|cannot be read/);
      }
    }
  });
});
