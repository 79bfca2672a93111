import { shownAs } from '../../describe/kinds.js';
import type { JsonValue } from '../../plan/condition.js';
import type { DeprecationNotice } from '../../plan/declared.js';
import type {
  Contract,
  ContractCondition,
  ContractInputMember,
  ContractMember,
  ContractType,
  ContractValue,
} from '../contract.js';
import { type ContractChange, changeOf, effectOf, type Side } from './contract-change.js';
import { valueChanges } from './value-changes.js';

type AnyMember = ContractMember | ContractInputMember;
type AnyType = ContractType<AnyMember>;

const typeWords = (type: AnyType): string => {
  switch (type.kind) {
    case 'constant':
      return 'a fixed value';
    case 'group':
    case 'object':
      return 'an object';
    case 'list':
      return 'a list';
    default:
      return shownAs(type.kind);
  }
};

const isValue = (type: AnyType): type is ContractValue =>
  type.kind !== 'constant' && type.kind !== 'group' && type.kind !== 'object' && type.kind !== 'list';

const isObject = (type: AnyType): boolean => type.kind === 'group' || type.kind === 'object';

const sameJson = (a: JsonValue | undefined, b: JsonValue | undefined): boolean =>
  JSON.stringify(a) === JSON.stringify(b);

/** How sure a member is to be there: the higher, the surer. */
const SURENESS: Readonly<Record<string, number>> = { always: 2, some: 1, asked: 0 };

/** Compares the bodies of two contracts on one side; each pair of named shapes once. */
export class BodyComparing {
  readonly #before: Contract;
  readonly #after: Contract;
  readonly #side: Side;
  readonly #known = new Map<string, readonly ContractChange[]>();

  constructor(before: Contract, after: Contract, side: Side) {
    this.#before = before;
    this.#after = after;
    this.#side = side;
  }

  /** What changed from one named shape or input to another, with paths inside it. */
  named(before: string, after: string): readonly ContractChange[] {
    const key = JSON.stringify([before, after]);
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    const changes = this.members(
      this.#membersOf(this.#before, before),
      this.#membersOf(this.#after, after),
      this.#fixed(after),
    );
    this.#known.set(key, changes);
    return changes;
  }

  #membersOf(contract: Contract, name: string): readonly AnyMember[] {
    const named = this.#side === 'response' ? contract.shapes[name] : contract.inputs[name];
    return named?.members ?? [];
  }

  #fixed(after: string): readonly string[] {
    return this.#side === 'request' ? (this.#after.inputs[after]?.fixed ?? []) : [];
  }

  /** What changed from some members to others; those that are `fixed` are set once. */
  members(
    before: readonly AnyMember[],
    after: readonly AnyMember[],
    fixed: readonly string[] = [],
  ): readonly ContractChange[] {
    const old = new Map(before.map((member) => [member.name, member]));
    const now = new Map(after.map((member) => [member.name, member]));
    const gone = before.filter(({ name }) => !now.has(name)).map(({ name }) => this.#removed(name, fixed));
    const rest = after.flatMap((member) => {
      const was = old.get(member.name);
      return was === undefined ? [this.#added(member)] : this.#member(was, member);
    });
    return [...gone, ...rest, ...this.#reordered(before, after)];
  }

  #removed(path: string, fixed: readonly string[]): ContractChange {
    const message = fixed.includes(path) ? 'It is set once now, when created.' : 'It is not there any more.';
    return { code: 'member-removed', effect: 'breaking', path, message };
  }

  #added(member: AnyMember): ContractChange {
    const path = member.name;
    if (this.#side === 'response') return changeOf('member-added', 'safe', path, 'It is new.');
    const isRequired = member.when === undefined;
    return isRequired
      ? changeOf('member-added', 'breaking', path, 'It is new, and required.')
      : changeOf('member-added', 'safe', path, 'It is new, and may be left out.');
  }

  /** Members that stayed, in another order: tables in CSV have their columns in it. */
  #reordered(before: readonly AnyMember[], after: readonly AnyMember[]): readonly ContractChange[] {
    if (this.#side === 'request') return [];
    const names = after.map(({ name }) => name);
    const stayed = before.map(({ name }) => name).filter((name) => names.includes(name));
    const now = names.filter((name) => stayed.includes(name));
    const isSame = stayed.every((name, i) => name === now[i]);
    const message = 'The members are in another order: columns of CSV are, too.';
    return isSame ? [] : [changeOf('members-reordered', 'risky', '', message)];
  }

  #member(before: AnyMember, after: AnyMember): readonly ContractChange[] {
    const path = after.name;
    const presence =
      this.#side === 'response'
        ? responsePresence(before as ContractMember, after as ContractMember)
        : requestPresence(before as ContractInputMember, after as ContractInputMember);
    const notices =
      this.#side === 'response' ? noticeChanges(before as ContractMember, after as ContractMember) : [];
    return [
      ...this.#type(before.type as AnyType, after.type as AnyType, path),
      ...this.#null(before, after),
      ...presence,
      ...notices,
    ];
  }

  #null(before: AnyMember, after: AnyMember): readonly ContractChange[] {
    const isNow = after.nullable === true;
    if ((before.nullable === true) === isNow) return [];
    const isResponse = this.#side === 'response';
    return isNow
      ? [changeOf('null-added', isResponse ? 'breaking' : 'safe', after.name, 'It may be null now.')]
      : [
          changeOf(
            'null-removed',
            isResponse ? 'safe' : 'breaking',
            after.name,
            'It is never null any more.',
          ),
        ];
  }

  #type(before: AnyType, after: AnyType, path: string): readonly ContractChange[] {
    if (isValue(before) && isValue(after)) return valueChanges(before, after, path, this.#side);
    if (isObject(before) && isObject(after)) return inside(`${path}.`, this.#objects(before, after));
    if (before.kind === 'list' && after.kind === 'list') {
      return [
        ...inside(`${path}[].`, this.named(before.of, after.of)),
        ...(this.#side === 'request'
          ? rowLimits(before, after, path)
          : this.#listLimit(before.limit, after.limit, path)),
        ...conditionChanges('Rows are in it', 'all of them', before.where, after.where, path),
      ];
    }
    if (before.kind === 'constant' && after.kind === 'constant') {
      return sameJson(before.value, after.value)
        ? []
        : [changeOf('constant-changed', 'breaking', path, `It is ${JSON.stringify(after.value)} now.`)];
    }
    const message = `It is ${typeWords(after)}; it was ${typeWords(before)}.`;
    return [changeOf('type-changed', 'breaking', path, message)];
  }

  /** Objects are compared by their members, whatever their shapes are called. */
  #objects(before: AnyType, after: AnyType): readonly ContractChange[] {
    if (before.kind === 'object' && after.kind === 'object') return this.named(before.of, after.of);
    return this.members(this.#inner(this.#before, before), this.#inner(this.#after, after), []);
  }

  #inner(contract: Contract, type: AnyType): readonly AnyMember[] {
    if (type.kind === 'group') return type.members;
    return type.kind === 'object' ? this.#membersOf(contract, type.of) : [];
  }

  #listLimit(before: number | undefined, after: number | undefined, path: string): readonly ContractChange[] {
    if (before === after) return [];
    const isFewer = after !== undefined && (before === undefined || after < before);
    const words = after === undefined ? 'It has all rows now' : `It has at most ${after} rows now`;
    const message = `${words}; ${before === undefined ? 'it had all of them' : `it had at most ${before}`}.`;
    return [changeOf(isFewer ? 'limit-tightened' : 'limit-loosened', 'risky', path, message)];
  }
}

/** How many rows of a list are taken. */
const rowLimits = (
  before: { readonly limit?: number; readonly least?: number },
  after: { readonly limit?: number; readonly least?: number },
  path: string,
): readonly ContractChange[] => {
  const changed = (what: string, was: number | undefined, is: number | undefined, isTighter: boolean) => {
    if (was === is) return [];
    const words =
      is === undefined
        ? `There is no ${what} number of rows any more`
        : `The ${what} number of rows is ${is}`;
    const code = isTighter ? 'limit-tightened' : 'limit-loosened';
    const effect = effectOf('request', isTighter ? 'narrower' : 'wider');
    return [
      changeOf(code, effect, path, `${words}; ${was === undefined ? 'there was none' : `it was ${was}`}.`),
    ];
  };
  const { limit: most, least } = after;
  return [
    ...changed(
      'greatest',
      before.limit,
      most,
      most !== undefined && most < (before.limit ?? Number.POSITIVE_INFINITY),
    ),
    ...changed('least', before.least, least, (least ?? 0) > (before.least ?? 0)),
  ];
};

/** Changes with a longer path; those of the object itself are told at the member. */
export const inside = (prefix: string, changes: readonly ContractChange[]): readonly ContractChange[] =>
  changes.map((one) => ({ ...one, path: one.path === '' ? prefix.slice(0, -1) : prefix + one.path }));

const askedFor = ({ asks = [] }: ContractMember): string => asks.map((name) => `\`${name}\``).join(', ');

const presenceWords = (member: ContractMember): string => {
  if (member.when === undefined) return 'always there';
  return member.when === 'some'
    ? 'there for some rows only'
    : `there only where ${askedFor(member)} is asked for`;
};

const responsePresence = (before: ContractMember, after: ContractMember): readonly ContractChange[] => {
  const was = SURENESS[before.when ?? 'always'] ?? 0;
  const is = SURENESS[after.when ?? 'always'] ?? 0;
  const message = `It is ${presenceWords(after)}; it was ${presenceWords(before)}.`;
  if (is < was) return [changeOf('presence-loosened', 'breaking', after.name, message)];
  if (is > was) return [changeOf('presence-tightened', 'safe', after.name, message)];
  if (before.when === 'some' && after.when === 'some')
    return conditionChanges('It is there', 'where it is not null', before.where, after.where, after.name);
  const lost = (before.asks ?? []).filter((name) => !(after.asks ?? []).includes(name));
  return before.when === 'asked' && lost.length > 0
    ? [changeOf('presence-loosened', 'breaking', after.name, message)]
    : [];
};

/** Another condition: what is there for some rows may be there for others now. */
const conditionChanges = (
  what: string,
  otherwise: string,
  before: ContractCondition | undefined,
  after: ContractCondition | undefined,
  path: string,
): readonly ContractChange[] => {
  const words = (one: ContractCondition | undefined): string =>
    one === undefined ? otherwise : `where ${one.says}`;
  if (words(before) === words(after)) return [];
  const message = `${what} ${words(after)}; it was ${words(before)}.`;
  return [changeOf('condition-changed', 'risky', path, message)];
};

const inputWords = ({ when, preset }: ContractInputMember): string => {
  if (when === undefined) return 'required';
  return when === 'optional' ? 'optional' : `preset to ${JSON.stringify(preset)}`;
};

const requestPresence = (
  before: ContractInputMember,
  after: ContractInputMember,
): readonly ContractChange[] => {
  const message = `It is ${inputWords(after)}; it was ${inputWords(before)}.`;
  if (before.when !== undefined && after.when === undefined) {
    return [changeOf('presence-tightened', 'breaking', after.name, message)];
  }
  if (before.when === undefined && after.when !== undefined) {
    return [changeOf('presence-loosened', 'safe', after.name, message)];
  }
  // What is stored for those who leave it out is another value now.
  const isSame = before.when === after.when && sameJson(before.preset, after.preset);
  return isSame ? [] : [changeOf('preset-changed', 'risky', after.name, message)];
};

const noticeWords = ({ sunset, instead }: DeprecationNotice): string => {
  const until = sunset === null ? '' : ` It may be gone after ${sunset}.`;
  return `It is deprecated.${until}${instead === null ? '' : ` Use ${instead} instead.`}`;
};

/** What changed about the end of a member or an endpoint. */
export const noticeChange = (
  code: 'member-deprecated' | 'endpoint-deprecated',
  path: string,
  before: DeprecationNotice | undefined,
  after: DeprecationNotice | undefined,
): readonly ContractChange[] => {
  if (sameJson({ ...before }, { ...after })) return [];
  if (after === undefined) return [changeOf(code, 'safe', path, 'It is not deprecated any more.')];
  const isSooner = before?.sunset != null && after.sunset !== null && after.sunset < before.sunset;
  return [changeOf(code, isSooner ? 'risky' : 'safe', path, noticeWords(after))];
};

const noticeChanges = (before: ContractMember, after: ContractMember): readonly ContractChange[] =>
  noticeChange('member-deprecated', after.name, before.deprecated, after.deprecated);
