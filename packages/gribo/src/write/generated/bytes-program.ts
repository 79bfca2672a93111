import type { SourceWriter } from '../../codegen/source-writer.js';
import type { SettledValue } from '../../plan/condition.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../../plan/resolved.js';
import { SLACK } from '../bytes/sink.js';
import { writeKind } from './kinds.js';
import { LiteralBytes } from './literal-bytes.js';
import { type Local, RowLoads, type RowsLocal } from './row-loads.js';

/** A member with its values loaded: what is left is to write it. */
interface LoadedField {
  readonly name: string;
  /** When the member is there, as an expression; null where it always is. */
  readonly present: string | null;
  readonly value: LoadedValue;
}

type LoadedValue =
  | { readonly kind: 'value'; readonly local: Local }
  | { readonly kind: 'literal'; readonly text: string }
  | { readonly kind: 'group'; readonly fields: readonly LoadedField[] }
  | {
      readonly kind: 'row';
      readonly local: string;
      readonly nullable: boolean;
      readonly shape: ResolvedShape;
    }
  | { readonly kind: 'rows'; readonly local: RowsLocal; readonly shape: ResolvedShape }
  | { readonly kind: 'first'; readonly local: RowsLocal; readonly shape: ResolvedShape };

/** A local whose length says how much room a value needs; not sure: it may be null or never set. */
interface Measured {
  readonly from: string;
  readonly sure: boolean;
}

/** Generates the function that writes one shape's row as JSON bytes: `(sink, row, position) => position`. */
export class ShapeBytes {
  readonly #loads: RowLoads;
  readonly #writes: SourceWriter;
  readonly #literal: LiteralBytes;
  readonly #functionOf: (shape: ResolvedShape) => string;
  readonly #texts: Measured[] = [];
  readonly #blobs: Measured[] = [];
  /** How many conditions stand around what is being loaded. */
  #conditions = 0;
  #fixed = SLACK;

  constructor(out: SourceWriter, functionOf: (shape: ResolvedShape) => string) {
    this.#loads = new RowLoads(out.part());
    this.#writes = out.part();
    this.#literal = new LiteralBytes(this.#writes);
    this.#functionOf = functionOf;
  }

  emit(name: string, shape: ResolvedShape, out: SourceWriter): void {
    const fields = shape.fields.map((field) => this.#load(field, shape.name));
    this.#writeFields(fields);
    this.#literal.flush();
    const { locals, out: loads } = this.#loads;
    out.line(`function ${name}(S,r,p,F){`);
    out.line(`if(r===null||typeof r!=="object")${this.#loads.halt(shape.name)}`);
    if (locals.length > 0) out.line(`let ${locals.join()};`);
    out.append(loads);
    this.#reserve(out);
    out.line('let b=S.buffer,d=S.view;');
    out.append(this.#writes);
    out.line('return p;}');
  }

  /** Room for everything but what nested shapes reserve for themselves. */
  #reserve(out: SourceWriter): void {
    out.line(`let f=${this.#fixed + this.#literal.total};`);
    for (const { from, sure } of this.#blobs) {
      out.line(sure ? `f+=base64Room(${from});` : `if(${from}!=null)f+=base64Room(${from});`);
    }
    const sure = this.#texts.filter((text) => text.sure).map(({ from }) => `${from}.length`);
    out.line(sure.length === 0 ? 'let n=f;' : `let n=f+6*(${sure.join('+')});`);
    for (const { from } of this.#texts.filter((text) => !text.sure)) {
      out.line(`if(${from}!=null)n+=6*${from}.length;`);
    }
    out.line(this.#makeRoom());
  }

  /** The quick estimate first; only where it does not fit are the texts looked at. */
  #makeRoom(): string {
    return `if(p+n>S.size)room(S,p,f,[${this.#texts.map(({ from }) => from).join()}]);`;
  }

  #load(field: ResolvedField, at: string): LoadedField {
    const member = `${at}.${field.name}`;
    const { name, condition, unlessNull, node } = field;
    if (condition === null) return this.#loaded(name, null, unlessNull, this.#loadNode(node, member));
    const test = this.#loads.test(condition, member);
    this.#conditions++;
    const value = this.#loads.onlyIf(test, () => this.#loadNode(node, member));
    this.#conditions--;
    return this.#loaded(name, test, unlessNull, value);
  }

  #loaded(name: string, test: string | null, unlessNull: boolean, value: LoadedValue): LoadedField {
    const parts = [test, unlessNull ? isThere(value) : null].filter((part) => part !== null);
    return { name, present: parts.length === 0 ? null : parts.join('&&'), value };
  }

  #loadNode(node: ResolvedNode, member: string): LoadedValue {
    switch (node.kind) {
      case 'constant':
        return { kind: 'literal', text: JSON.stringify(node.value) };
      case 'group':
        return { kind: 'group', fields: node.fields.map((field) => this.#load(field, member)) };
      case 'nested': {
        const local = this.#loads.row(node.path, member);
        return { kind: 'row', local, nullable: node.path.some((link) => link.nullable), shape: node.shape };
      }
      case 'nestedList': {
        const local = this.#loads.rows(node.path, node.link, node.selection, member);
        return { kind: 'rows', local, shape: node.shape };
      }
      case 'first': {
        const local = this.#loads.rows(node.path, node.link, { ...node.selection, limit: 1 }, member);
        return { kind: 'first', local, shape: node.shape };
      }
      default:
        return this.#measure(this.#loads.value(node satisfies SettledValue, member));
    }
  }

  #measure(local: Local): LoadedValue {
    const { most, measured } = writeKind(local.type);
    const bytes = most(local.type);
    if (bytes !== null) this.#fixed += bytes;
    else {
      const sure = !local.nullable && this.#conditions === 0;
      const list = measured === 'bytes' ? this.#blobs : this.#texts;
      list.push({ from: measured === 'ready' ? local.ready : local.name, sure });
    }
    return { kind: 'value', local };
  }

  /**
   * Members are separated by commas. Before the first member that is always there, each one
   * brings its comma along behind; after it, each one brings it before.
   */
  #writeFields(fields: readonly LoadedField[]): void {
    const firstSure = fields.findIndex((field) => field.present === null);
    this.#literal.add('{');
    fields.forEach((field, index) => {
      const before = firstSure !== -1 && index > firstSure ? ',' : '';
      const after = firstSure === -1 || index < firstSure ? ',' : '';
      this.#writeField(field, before, after);
    });
    if (firstSure === -1 && fields.length > 0) {
      this.#literal.flush();
      this.#writes.line('if(b[p-1]===44)p--;');
    }
    this.#literal.add('}');
  }

  #writeField({ name, present, value }: LoadedField, before: string, after: string): void {
    const write = (): void => {
      this.#literal.add(`${before}${JSON.stringify(name)}:`);
      this.#write(value);
      this.#literal.add(after);
    };
    if (present === null) write();
    else this.#block(`if(${present})`, write);
  }

  /** A block of the program: literals must not move across its borders. */
  #block(head: string, inside: () => void): void {
    this.#literal.flush();
    this.#writes.line(`${head}{`);
    inside();
    this.#literal.flush();
    this.#writes.line('}');
  }

  #orNull(nullable: boolean, isNull: string, write: () => void): void {
    if (!nullable) return write();
    this.#block(`if(${isNull})`, () => this.#literal.add('null'));
    this.#block('else', write);
  }

  #write(value: LoadedValue): void {
    switch (value.kind) {
      case 'literal':
        return this.#literal.add(value.text);
      case 'value':
        return this.#writeValue(value.local);
      case 'group':
        return this.#writeFields(value.fields);
      case 'row':
        return this.#orNull(value.nullable, `${value.local}===null`, () =>
          this.#call(value.shape, value.local),
        );
      case 'first': {
        const { name } = value.local;
        const isNull = `${name}===null||${name}.length===0`;
        return this.#orNull(true, isNull, () => this.#call(value.shape, `${name}[0]`));
      }
      case 'rows':
        return this.#orNull(value.local.nullable, `${value.local.name}===null`, () =>
          this.#loop(value.shape, value.local.name),
        );
      default:
        return value satisfies never;
    }
  }

  #call(shape: ResolvedShape, row: string): void {
    this.#literal.flush();
    this.#writes.line(`p=${this.#functionOf(shape)}(S,${row},p,F);`);
    this.#writes.line(`${this.#makeRoom()}b=S.buffer;d=S.view;`);
  }

  #loop(shape: ResolvedShape, rows: string): void {
    this.#literal.add('[');
    this.#literal.flush();
    const call = `p=${this.#functionOf(shape)}(S,${rows}[i],p,F);`;
    this.#writes.line(`for(let i=0,e=${rows}.length;i<e;i++){if(i>0)S.buffer[p++]=44;${call}}`);
    this.#writes.line(`${this.#makeRoom()}b=S.buffer;d=S.view;`);
    this.#literal.add(']');
  }

  #writeValue(local: Local): void {
    const { name, ready, type } = local;
    if (type.kind === 'json') {
      this.#literal.flush();
      return this.#writes.line(`p=raw(b,${ready},p);`);
    }
    this.#orNull(local.nullable, `${name}===null`, () => this.#writePresent(local));
  }

  #writePresent(local: Local): void {
    const call = writeKind(local.type).write(local);
    if (call === null) {
      this.#block(`if(${local.name})`, () => this.#literal.add('true'));
      return this.#block('else', () => this.#literal.add('false'));
    }
    this.#literal.flush();
    this.#writes.line(`p=${call};`);
  }
}

/** When a member that is left out where it is null is there. */
const isThere = (value: LoadedValue): string | null => {
  switch (value.kind) {
    case 'value':
      if (value.local.type.kind === 'json') return `${value.local.ready}!=="null"`;
      return value.local.nullable ? `${value.local.name}!==null` : null;
    case 'row':
      return value.nullable ? `${value.local}!==null` : null;
    case 'rows':
      return value.local.nullable ? `${value.local.name}!==null` : null;
    case 'first':
      return `${value.local.name}!==null&&${value.local.name}.length>0`;
    case 'literal':
      return value.text === 'null' ? 'false' : null;
    case 'group':
      return null;
    default:
      return value satisfies never;
  }
};
