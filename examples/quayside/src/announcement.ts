import { NewPortCall } from '@gribo-examples/harbour/src/inputs.js';
import { type BareIssue, type Issue, reader, sayIssue } from 'gribo';
import type { Announcement } from './call-api.js';

/** One kind of goods, as it is typed in. */
export interface CargoText {
  readonly commodity: string;
  readonly weightKg: string;
  readonly hazardClass: string;
  readonly consignee: string;
}

/** The form as it is filled in: all of it text, but for the switch. */
export interface AnnouncementText {
  readonly vessel: string;
  readonly berth: string;
  readonly eta: string;
  readonly etd: string;
  readonly hazardous: boolean;
  readonly hazardDetail: string;
  readonly remarks: string;
  readonly cargo: readonly CargoText[];
}

export const EMPTY: AnnouncementText = {
  vessel: '',
  berth: '',
  eta: '',
  etd: '',
  hazardous: false,
  hazardDetail: '',
  remarks: '',
  cargo: [],
};

export const NO_CARGO: CargoText = { commodity: '', weightKg: '', hazardClass: '', consignee: '' };

/** What is wrong, in words, by JSON Pointer. */
export type Wrong = Readonly<Record<string, string>>;

/** What is wrong, in words for those who fill in a form. */
function say(issue: BareIssue): string {
  return issue.code === 'required' ? 'This is needed.' : sayIssue(issue);
}

/** The declaration that the server reads announcements by; here it runs in the browser, without generated code. */
const read = reader(NewPortCall, { say }, { engine: 'interpreted' });

/** Text that was left empty is left out. */
const given = (members: Readonly<Record<string, string>>): Record<string, string> =>
  Object.fromEntries(Object.entries(members).filter(([, text]) => text !== ''));

/** A number where it is one; the declaration says what is wrong with anything else. */
const number = (text: string): unknown =>
  text.trim() === '' || Number.isNaN(Number(text)) ? text : Number(text);

/** What a browser's field for a moment holds, as a moment in UTC. */
const moment = (text: string): string => (text === '' ? '' : `${text}:00Z`);

/** The body that the form stands for. */
const bodyOf = (
  id: string,
  { vessel, berth, eta, etd, hazardous, hazardDetail, remarks, cargo }: AnnouncementText,
): object => ({
  id,
  vessel: vessel === '' ? {} : { id: number(vessel) },
  ...(berth === '' ? {} : { berth: { id: number(berth) } }),
  ...given({ eta: moment(eta), etd: moment(etd), remarks }),
  hazardous,
  ...(hazardous && hazardDetail !== '' ? { hazard: { detail: hazardDetail } } : {}),
  cargo: cargo.map(({ weightKg, ...texts }) => ({
    ...given(texts),
    ...(weightKg === '' ? {} : { weightKg: number(weightKg) }),
  })),
});

/** The issues as the form shows them: the first of each member. */
export const wrongOf = (issues: readonly Pick<Issue, 'pointer' | 'message'>[]): Wrong =>
  Object.fromEntries([...issues].reverse().map(({ pointer, message }) => [pointer, message]));

/** An announcement that the server will take, or what keeps it from being one. */
export const checkAnnouncement = (
  id: string,
  text: AnnouncementText,
): { readonly body: Announcement } | { readonly wrong: Wrong } => {
  const body = bodyOf(id, text);
  const got = read.object(body);
  // What the reader accepts is of the type that was made from the same declaration.
  return got.ok ? { body: body as Announcement } : { wrong: wrongOf(got.issues) };
};
