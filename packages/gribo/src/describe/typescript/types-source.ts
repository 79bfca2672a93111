import { SourceWriter } from '../../codegen/source-writer.js';
import type {
  Contract,
  ContractEndpoint,
  ContractInputMember,
  ContractMember,
  ContractParameter,
  ContractType,
  ContractValue,
} from '../../contract/contract.js';
import type { JsonValue } from '../../plan/condition.js';
import { describedKind, holdsOf } from '../kinds.js';
import { typeNames } from './type-names.js';

type AnyMember = ContractMember | ContractInputMember;

const valueType = (type: ContractValue, out: SourceWriter): string =>
  describedKind(type).typeScript(type, (text) => out.quoted(text));

const constantType = (value: JsonValue, out: SourceWriter): string => {
  if (Array.isArray(value)) return `readonly [${value.map((item) => constantType(item, out)).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const members = Object.entries(value).map(
    ([name, member]) => `readonly ${out.quoted(name)}: ${constantType(member, out)}`,
  );
  return `{ ${members.join('; ')} }`;
};

const isIdentifier = (name: string): boolean => /^[A-Za-z_$][\w$]*$/.test(name) && name !== '__proto__';

/** A comment must not be ended by what it says. */
const comment = (lines: readonly string[]): string =>
  `/** ${lines.map((line) => line.replaceAll('*/', '* /').replaceAll(/\s+/g, ' ')).join(' ')} */`;

/** Writes the module of one contract. */
class TypesWriter {
  readonly #out = new SourceWriter();
  readonly #contract: Contract;
  readonly #names: ReadonlyMap<string, string>;

  constructor(contract: Contract) {
    this.#contract = contract;
    this.#names = typeNames(contract);
  }

  write(): string {
    const { shapes, inputs, audiences } = this.#contract;
    const whom = [...audiences.map((name) => this.#out.quoted(name)), this.#out.quoted('')].join(' | ');
    this.#out.line(comment(['Whom responses are for; an empty name stands for callers of no audience.']));
    this.#out.line(`export type Audience = ${whom};`);
    for (const [name, { about, members }] of Object.entries(shapes)) this.#interface(name, about, members);
    for (const [name, { about, members }] of Object.entries(inputs)) this.#interface(name, about, members);
    this.#responses();
    this.#requests();
    this.#parameters();
    this.#problems();
    return `${this.#out.toString()}\n`;
  }

  #interface(name: string, about: string | undefined, members: readonly AnyMember[]): void {
    this.#out.line('');
    if (about !== undefined) this.#out.line(comment([about]));
    this.#out.line(`export interface ${this.#names.get(name)} {`);
    this.#members(members, '  ');
    this.#out.line('}');
  }

  #members(members: readonly AnyMember[], indent: string): void {
    for (const member of members) {
      const said = this.#words(member);
      if (said.length > 0) this.#out.line(indent + comment(said));
      const optional = member.when === undefined ? '' : '?';
      this.#out.line(
        `${indent}readonly ${this.#key(member.name)}${optional}: ${this.#type(member, indent)};`,
      );
    }
  }

  #words(member: AnyMember): readonly string[] {
    const { type, about, when } = member;
    const asks = 'asks' in member && when === 'asked' ? (member.asks ?? []) : [];
    const notice = 'deprecated' in member ? member.deprecated : undefined;
    const kind = holdsOf(type.kind);
    return [
      ...(about === undefined ? [] : [about]),
      ...(kind === null ? [] : [kind]),
      ...(asks.length === 0
        ? []
        : [`Only where ${asks.map((name) => `\`${name}\``).join(', ')} is asked for.`]),
      ...(notice === undefined
        ? []
        : [`@deprecated${notice.instead === null ? '' : ` Use ${notice.instead}.`}`]),
    ];
  }

  #key(name: string): string {
    return isIdentifier(name) ? name : this.#out.quoted(name);
  }

  #type(member: AnyMember, indent: string): string {
    const type = this.#plainType(member.type as ContractType<AnyMember>, indent);
    return member.nullable === true && type !== 'unknown' ? `${type} | null` : type;
  }

  #plainType(type: ContractType<AnyMember>, indent: string): string {
    switch (type.kind) {
      case 'constant':
        return constantType(type.value, this.#out);
      case 'group': {
        const inside = new TypesWriter(this.#contract);
        inside.#members(type.members, `${indent}  `);
        return `{\n${inside.#out.toString()}\n${indent}}`;
      }
      case 'object':
        return this.#names.get(type.of) ?? 'never';
      case 'list':
        return `readonly ${this.#names.get(type.of)}[]`;
      default:
        return valueType(type, this.#out);
    }
  }

  /** One member for each endpoint. */
  #map(name: string, about: string, typeOf: (endpoint: ContractEndpoint) => string | null): void {
    this.#out.line('');
    this.#out.line(comment([about]));
    this.#out.line(`export interface ${name} {`);
    for (const endpoint of this.#contract.endpoints) {
      const type = typeOf(endpoint);
      if (type !== null) this.#out.line(`  readonly ${this.#out.quoted(endpoint.name)}: ${type};`);
    }
    this.#out.line('}');
  }

  #responses(): void {
    this.#map('Responses', 'What each endpoint sends, by audience.', ({ returns, file }) => {
      if (file !== undefined) return this.#toEach('Blob');
      if (returns === undefined) return null;
      return this.#byAudience(
        returns.many,
        returns.variants.map(({ audiences, shape }) => [audiences, shape]),
      );
    });
  }

  /** An object type with what there is for each audience. */
  #byAudience(many: boolean, variants: readonly (readonly [readonly (string | null)[], string])[]): string {
    const members = variants.flatMap(([audiences, name]) => {
      const type = this.#names.get(name) ?? 'never';
      return audiences.map(
        (audience) => `readonly ${this.#key(audience ?? '')}: ${many ? `readonly ${type}[]` : type}`,
      );
    });
    return `{ ${members.join('; ')} }`;
  }

  /** The same for every audience. */
  #toEach(type: string): string {
    const all = [...this.#contract.audiences, ''];
    return `{ ${all.map((audience) => `readonly ${this.#key(audience)}: ${type}`).join('; ')} }`;
  }

  #requests(): void {
    this.#map('Requests', 'What each endpoint takes, by audience.', ({ takes, takesMany }) => {
      if (takes === undefined) return null;
      return this.#byAudience(
        takesMany === true,
        takes.map(({ audiences, input }) => [audiences, input]),
      );
    });
    this.#map('Files', 'The files that each endpoint takes.', ({ files = [] }) => {
      const members = files.map(
        ({ name, optional }) => `readonly ${this.#key(name)}${optional === true ? '?' : ''}: Blob`,
      );
      return members.length === 0 ? null : `{ ${members.join('; ')} }`;
    });
  }

  #parameters(): void {
    const typeOf = ({ type }: ContractParameter): string => {
      const plain = valueType(type, this.#out);
      return plain === 'number' || plain === 'string' ? 'string | number' : plain;
    };
    this.#map('PathParameters', 'The parameters in the path of each endpoint.', ({ parameters }) => {
      if (parameters.length === 0) return null;
      return `{ ${parameters.map((one) => `readonly ${this.#key(one.name)}: ${typeOf(one)}`).join('; ')} }`;
    });
    this.#map('Queries', 'The query parameters of each endpoint.', (endpoint) => this.#query(endpoint));
  }

  #problems(): void {
    this.#map(
      'Problems',
      'The problems of each endpoint’s own, told apart by their codes.',
      ({ problems = [] }) => {
        const types = problems.map(({ code, status, members = [] }) => {
          const more = members.map((member) => {
            const optional = member.when === undefined ? '' : '?';
            return `; readonly ${this.#key(member.name)}${optional}: ${this.#type(member, '    ')}`;
          });
          return `{ readonly code: ${this.#out.quoted(code)}; readonly status: ${status}${more.join('')} }`;
        });
        return types.length === 0 ? null : types.join(' | ');
      },
    );
  }

  #query({ filters, query = [], sort, asks, page, returns }: ContractEndpoint): string | null {
    const oneOf = (names: readonly string[]): string =>
      `readonly (${names.map((name) => this.#out.quoted(name)).join(' | ')})[]`;
    const members = [
      ...filters.map(({ name, type, compares }) => {
        const value = valueType(type, this.#out);
        return `readonly ${this.#key(name)}?: ${compares === 'oneOfThese' ? `readonly (${value})[]` : value}`;
      }),
      ...query.map((member) => {
        const optional = member.when === undefined && member.audiences === undefined ? '' : '?';
        return `readonly ${this.#key(member.name)}${optional}: ${this.#type(member, '')}`;
      }),
      ...(page === undefined ? [] : ['readonly size?: number']),
      ...(page?.by === 'number' ? ['readonly page?: number'] : []),
      ...(page?.by === 'cursor' ? ['readonly after?: string'] : []),
      ...(sort.length === 0
        ? []
        : [`readonly sort?: ${oneOf(sort.flatMap(({ name }) => [name, `${name} desc`]))}`]),
      ...(asks.length === 0 ? [] : [`readonly with?: ${oneOf(asks)}`]),
      ...(returns === undefined ? [] : ['readonly fields?: readonly string[]']),
    ];
    return members.length === 0 ? null : `{ ${members.join('; ')} }`;
  }
}

/**
 * Plain TypeScript interfaces for every response and request of a contract, with maps from endpoints
 * to them: `Responses`, `Requests`, `PathParameters`, `Queries`, `Problems`, `Files`. The module imports nothing.
 *
 * @param contract what `contractOf` returns
 * @returns TypeScript declarations
 * @example
 * typesSource(contractOf(harbour)).includes('export interface VesselCard {') // => true
 */
export const typesSource = (contract: Contract): string => new TypesWriter(contract).write();
