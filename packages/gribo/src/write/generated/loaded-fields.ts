import type { SourceWriter } from '../../codegen/source-writer.js';
import type { SettledValue } from '../../plan/condition.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../../plan/resolved.js';
import type { Reservation } from './reservation.js';
import { type Local, RowLoads, type RowsLocal } from './row-loads.js';

/** A member with its values loaded: what is left is to write it. */
export interface LoadedField {
  readonly name: string;
  /** When the member is there, as an expression; null where it always is. */
  readonly present: string | null;
  readonly value: LoadedValue;
}

export type LoadedValue =
  | { readonly kind: 'value'; readonly local: Local }
  | { readonly kind: 'literal'; readonly value: unknown }
  | { readonly kind: 'group'; readonly fields: readonly LoadedField[] }
  | {
      readonly kind: 'row';
      readonly local: string;
      readonly nullable: boolean;
      readonly shape: ResolvedShape;
    }
  | { readonly kind: 'rows'; readonly local: RowsLocal; readonly shape: ResolvedShape }
  | { readonly kind: 'first'; readonly local: RowsLocal; readonly shape: ResolvedShape };

/** The head of a function that writes one shape's row as bytes: all that it needs is loaded, checked and measured. */
export class LoadedFields {
  readonly #loads: RowLoads;
  readonly #reservation: Reservation;
  /** How many conditions stand around what is being loaded. */
  #conditions = 0;

  constructor(loads: SourceWriter, reservation: Reservation) {
    this.#loads = new RowLoads(loads);
    this.#reservation = reservation;
  }

  load(shape: ResolvedShape): readonly LoadedField[] {
    return shape.fields.map((field) => this.#load(field, shape.name));
  }

  /** The function's first lines, up to where room is made: `(sink, row, position, facts)`. */
  emitHead(name: string, shape: ResolvedShape, out: SourceWriter): void {
    const { locals, out: loads } = this.#loads;
    out.line(`function ${name}(S,r,p,F){`);
    out.line(`if(r===null||typeof r!=="object")${this.#loads.halt(shape.name)}`);
    if (locals.length > 0) out.line(`let ${locals.join()};`);
    out.append(loads);
  }

  #load(field: ResolvedField, at: string): LoadedField {
    const member = `${at}.${field.name}`;
    const { name, condition, unlessNull, node } = field;
    if (condition === null) return loaded(name, null, unlessNull, this.#loadNode(node, member));
    const test = this.#loads.test(condition, member);
    this.#conditions++;
    const value = this.#loads.onlyIf(test, () => this.#loadNode(node, member));
    this.#conditions--;
    return loaded(name, test, unlessNull, value);
  }

  #loadNode(node: ResolvedNode, member: string): LoadedValue {
    switch (node.kind) {
      case 'constant':
        return { kind: 'literal', value: node.value };
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
      default: {
        const local = this.#loads.value(node satisfies SettledValue, member);
        this.#reservation.measure(local, this.#conditions === 0);
        return { kind: 'value', local };
      }
    }
  }
}

const loaded = (name: string, test: string | null, unlessNull: boolean, value: LoadedValue): LoadedField => {
  const parts = [test, unlessNull ? isThere(value) : null].filter((part) => part !== null);
  return { name, present: parts.length === 0 ? null : parts.join('&&'), value };
};

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
      return value.value === null ? 'false' : null;
    case 'group':
      return null;
    default:
      return value satisfies never;
  }
};
