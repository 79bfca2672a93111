import type { PageSettings } from '../../plan/declared.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import { lastPart } from '../../resolve/resolver.js';
import type { ContractMember, ContractShape, ContractType } from '../contract.js';
import { describeMember } from './describe-member.js';

/** The place in an API where a shape stands first: what tells its names apart from those of others that are called alike. */
export interface ShapePlace {
  readonly endpoint: string;
  readonly audience: string | null;
  readonly page: PageSettings | null;
}

/** A shape's content: nested shapes are named by their numbers here. */
interface Entry {
  readonly base: string;
  readonly shape: ContractShape;
}

/** A name that every description can use as it is: `page(VesselCard)` becomes `VesselCard.page`. */
export const plainName = (name: string): string =>
  name.replace(/^(\w+)\((.*)\)$/, '$2.$1').replaceAll(/[^\w.-]/g, '_');

const renamed = (
  type: ContractType<ContractMember>,
  rename: (of: string) => string,
): ContractType<ContractMember> => {
  switch (type.kind) {
    case 'group':
      return { kind: 'group', members: type.members.map((member) => renamedMember(member, rename)) };
    case 'object':
    case 'list':
      return { ...type, of: rename(type.of) };
    default:
      return type;
  }
};

const renamedMember = (member: ContractMember, rename: (of: string) => string): ContractMember => ({
  ...member,
  type: renamed(member.type, rename),
});

/** Gathers resolved shapes: each content once, under a name of its own. */
export class ShapeCatalog {
  readonly #entries: Entry[] = [];
  readonly #numbers = new Map<string, number>();
  readonly #known = new Map<ResolvedShape, number>();
  readonly #names = new Map<number, string>();
  readonly #taken: Set<string>;
  /** Where each name stands first. */
  readonly #places = new Map<string, ShapePlace>();

  /** @param taken names that others have already */
  constructor(taken: Iterable<string> = []) {
    this.#taken = new Set(taken);
  }

  /** The name of a shape, found or made. The outermost shape chooses before those inside it. */
  nameOf(shape: ResolvedShape, place: ShapePlace): string {
    return this.#name(this.#number(shape, place.page), place);
  }

  /** Every shape by its name, in the order in which they were found. */
  shapes(): Readonly<Record<string, ContractShape>> {
    const rename = (of: string): string => this.#names.get(Number(of)) ?? of;
    const named = [...this.#names].map(([number, name]) => {
      const { shape } = this.#entries[number] as Entry;
      return [name, { ...shape, members: shape.members.map((member) => renamedMember(member, rename)) }];
    });
    return Object.fromEntries(named) as Record<string, ContractShape>;
  }

  #number(shape: ResolvedShape, page: PageSettings | null): number {
    const known = this.#known.get(shape);
    if (known !== undefined) return known;
    const context = {
      of: shape.entity,
      page,
      nameOf: (inner: ResolvedShape) => String(this.#number(inner, page)),
    };
    const made: ContractShape = {
      entity: shape.entity.kind === 'envelope' ? null : shape.entity.name,
      ...(shape.about === null ? {} : { about: shape.about }),
      members: shape.fields.map((field) => describeMember(field, context)),
    };
    const base = plainName(shape.name);
    const text = JSON.stringify([base, made]);
    const number = this.#numbers.get(text) ?? this.#entries.push({ base, shape: made }) - 1;
    this.#numbers.set(text, number);
    this.#known.set(shape, number);
    return number;
  }

  #name(number: number, place: ShapePlace): string {
    const known = this.#names.get(number);
    if (known !== undefined) return known;
    const { base, shape } = this.#entries[number] as Entry;
    const name = this.#freeName(base, place);
    this.#taken.add(name);
    this.#places.set(name, place);
    this.#names.set(number, name);
    this.#nameInside(shape.members, place);
    return name;
  }

  #nameInside(members: readonly ContractMember[], place: ShapePlace): void {
    for (const { type } of members) {
      if (type.kind === 'group') this.#nameInside(type.members, place);
      else if (type.kind === 'object' || type.kind === 'list') this.#name(Number(type.of), place);
    }
  }

  /** The shape's own name; where it is taken, with what is different here behind it: operation, audience, or a number. */
  #freeName(base: string, { endpoint, audience }: ShapePlace): string {
    const first = this.#places.get(base);
    if (first === undefined && !this.#taken.has(base)) return base;
    const operation = first?.endpoint === endpoint ? [] : [plainName(lastPart(endpoint))];
    const whom = first?.audience === audience || audience === null ? [] : [plainName(audience)];
    const name = [base, ...operation, ...whom].join('.');
    if (!this.#taken.has(name)) return name;
    let next = 2;
    while (this.#taken.has(`${name}.${next}`)) next++;
    return `${name}.${next}`;
  }
}
