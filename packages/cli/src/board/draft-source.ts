import type { BoundEntity } from 'gribo';
import { capital, key, quoted, reach } from '../draft/names.js';
import type { DraftMember, DraftWish } from './draft-wish.js';
import type { KnownModel } from './known-model.js';

/** The text of declarations, with the functions that they call. */
class Writing {
  readonly called = new Set<string>();
  readonly shapes: string[] = [];
  readonly #known: KnownModel;
  readonly #names = new Set<string>();

  constructor(known: KnownModel) {
    this.#known = known;
  }

  /** Writes a shape, those that it nests first. @returns the name that it got */
  shape(bound: BoundEntity, members: readonly DraftMember[], wished: string): string {
    const name = this.#free(wished);
    const lines = this.#members(bound, members, 'row');
    this.#call('shape');
    this.shapes.push(
      [
        `export const ${name} = shape(`,
        `  ${reach('db', bound.entity.name)},`,
        '  (row) => ({',
        ...lines.map((line) => `    ${line}`),
        '  }),',
        `  { name: ${quoted(name)} },`,
        ');',
      ].join('\n'),
    );
    return name;
  }

  #free(wished: string): string {
    const clean = capital(wished.replaceAll(/[^\p{ID_Continue}$]/gu, '').replace(/^\d+/, '')) || 'Draft';
    let name = clean;
    for (let i = 2; this.#names.has(name); i++) name = `${clean}${i}`;
    this.#names.add(name);
    return name;
  }

  #call(name: string): string {
    this.called.add(name);
    return name;
  }

  #members(bound: BoundEntity, members: readonly DraftMember[], row: string): readonly string[] {
    return members.flatMap((member) => this.#member(bound, member, row));
  }

  #member(bound: BoundEntity, member: DraftMember, row: string): readonly string[] {
    if (member.kind === 'column') {
      const { sealed } = this.#known.column(bound, member.column);
      return [this.#line(member, reach(row, member.column), sealed !== null)];
    }
    const link = this.#known.link(bound, member.link);
    if (member.kind === 'count')
      return [this.#line(member, `${this.#call('count')}(${reach(row, link.name)})`, false)];
    const target = this.#known.entity(link.target.name);
    if (member.kind === 'flat') return this.#members(target, member.members, reach(row, link.name));
    const nested = this.shape(target, member.members, link.target.name);
    return [this.#line(member, `${nested}(${reach(row, link.name)})`, false)];
  }

  #line(
    { name, audiences, endpoints }: Exclude<DraftMember, { kind: 'flat' }>,
    text: string,
    isSealed: boolean,
  ): string {
    const names = audiences.map(quoted).join(', ');
    const whom = isSealed
      ? `${this.#call('unseal')}(${audiences.length === 1 ? names : `[${names}]`}, ${text})`
      : audiences.length === 0
        ? text
        : `${this.#call('given')}(${this.#call('audience')}(${names}), ${text})`;
    if (endpoints.length === 0) return `${key(name)}: ${whom},`;
    return `${key(name)}: ${this.#call('at')}({ ${endpoints.map((each) => `${key(each)}: ${whom}`).join(', ')} }),`;
  }

  input({ entity }: BoundEntity, { takes, name }: DraftWish): void {
    if (takes.length === 0) return;
    this.#call('input');
    const fresh = this.#free(`New${capital(name)}`);
    this.shapes.push(
      [
        `export const ${fresh} = input(`,
        `  ${reach('db', entity.name)},`,
        '  (row) => ({',
        ...takes.map(({ column, isOptional }) => {
          const text = reach('row', column);
          return `    ${key(column)}: ${isOptional ? `${this.#call('optional')}(${text})` : text},`;
        }),
        '  }),',
        `  { name: ${quoted(fresh)} },`,
        ');',
      ].join('\n'),
    );
  }
}

/** The text of a draft: a module that compiles as it stands. */
export const draftSource = (wish: DraftWish, known: KnownModel): string => {
  const bound = known.entity(wish.entity);
  const writing = new Writing(known);
  if (wish.members.length > 0) writing.shape(bound, wish.members, wish.name);
  writing.input(bound, wish);
  const head = `import { ${[...writing.called].sort().join(', ')} } from 'gribo';\nimport { db } from ${quoted(wish.model)};`;
  return `${[head, ...writing.shapes].join('\n\n')}\n`;
};
