import type { SourceWriter } from '../../codegen/source-writer.js';
import type { SettledValue } from '../../plan/condition.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../../plan/resolved.js';
import { writeKind } from './kinds.js';
import { RowLoads } from './row-loads.js';

/** A member with its values loaded, as an expression. */
interface MemberCode {
  readonly name: string;
  /** When the member is there; null where it always is. */
  readonly present: string | null;
  readonly value: string;
}

/** Generates the function that makes the JSON-ready object of one shape's row: `(row) => object`. */
export class ShapeObject {
  readonly #loads: RowLoads;
  readonly #functionOf: (shape: ResolvedShape) => string;

  constructor(out: SourceWriter, functionOf: (shape: ResolvedShape) => string) {
    this.#loads = new RowLoads(out.part());
    this.#functionOf = functionOf;
  }

  emit(name: string, shape: ResolvedShape, out: SourceWriter): void {
    const made = this.#object(shape.fields, shape.name);
    const { locals, out: loads } = this.#loads;
    out.line(`function ${name}(r,F){`);
    out.line(`if(r===null||typeof r!=="object")${this.#loads.halt(shape.name)}`);
    if (locals.length > 0) out.line(`let ${locals.join()};`);
    out.append(loads);
    out.line(`return ${made};}`);
  }

  /** The expression of an object: a literal up to the first member that may be missing. */
  #object(fields: readonly ResolvedField[], at: string): string {
    const members = fields.map((field) => this.#member(field, at));
    const optional = members.findIndex((member) => member.present !== null);
    const sure = optional === -1 ? members : members.slice(0, optional);
    const literal = `{${sure.map(({ name, value }) => `${this.#key(name)}:${value}`).join()}}`;
    if (optional === -1) return literal;
    const local = this.#loads.local('o');
    this.#loads.out.line(`${local}=${literal};`);
    for (const { name, present, value } of members.slice(optional)) {
      const set = `${this.#assign(local, name, value)}`;
      this.#loads.out.line(present === null ? set : `if(${present})${set}`);
    }
    return local;
  }

  /** In a literal, `"__proto__":` sets the prototype; a computed name does not. */
  #key(name: string): string {
    return name === '__proto__' ? `[${this.#quoted(name)}]` : this.#quoted(name);
  }

  /** Assigning `__proto__` would set the prototype. */
  #assign(local: string, name: string, value: string): string {
    if (name === '__proto__') return `setMember(${local},${this.#quoted(name)},${value});`;
    return `${local}[${this.#quoted(name)}]=${value};`;
  }

  #quoted(text: string): string {
    return this.#loads.out.quoted(text);
  }

  #member(field: ResolvedField, at: string): MemberCode {
    const member = `${at}.${field.name}`;
    const { name, condition, unlessNull, node } = field;
    if (condition === null && !unlessNull) return { name, present: null, value: this.#value(node, member) };
    const made = this.#loads.local('m');
    const make = (): void => this.#loads.out.line(`${made}=${this.#value(node, member)};`);
    if (condition === null) {
      make();
      return { name, present: `${made}!==null`, value: made };
    }
    const test = this.#loads.test(condition, member);
    this.#loads.onlyIf(test, make);
    return { name, present: unlessNull ? `${test}&&${made}!==null` : test, value: made };
  }

  #value(node: ResolvedNode, member: string): string {
    switch (node.kind) {
      case 'constant':
        return `copyOf(${this.#quoted(JSON.stringify(node.value))})`;
      case 'group':
        return this.#object(node.fields, member);
      case 'nested': {
        const row = this.#loads.row(node.path, member);
        const call = `${this.#functionOf(node.shape)}(${row},F)`;
        return node.path.some((link) => link.nullable) ? `${row}===null?null:${call}` : call;
      }
      case 'nestedList': {
        const rows = this.#loads.rows(node.path, node.link, node.selection, member);
        const made = `all(${rows.name},${this.#functionOf(node.shape)},F)`;
        return rows.nullable ? `${rows.name}===null?null:${made}` : made;
      }
      case 'first': {
        const { name } = this.#loads.rows(node.path, node.link, { ...node.selection, limit: 1 }, member);
        return `${name}===null||${name}.length===0?null:${this.#functionOf(node.shape)}(${name}[0],F)`;
      }
      default: {
        const local = this.#loads.value(node satisfies SettledValue, member);
        const ready = writeKind(local.type).shown?.(local) ?? local.name;
        return local.nullable && ready !== local.name ? `${local.name}===null?null:${ready}` : ready;
      }
    }
  }
}
