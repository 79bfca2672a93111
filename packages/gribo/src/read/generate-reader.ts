import { instantiate } from '../codegen/instantiate.js';
import { ProgramFunctions } from '../codegen/program-functions.js';
import { SourceWriter } from '../codegen/source-writer.js';
import type { ColumnType } from '../plan/column-type.js';
import type { ConversionPlan } from '../plan/conversion.js';
import type { InputField, InputNode, InputPlan } from '../plan/input-plan.js';
import { characters } from '../values/characters.js';
import { ExactNumber } from '../values/exact-number.js';
import { HALF } from '../values/patterns.js';
import { readKind } from './kinds.js';
import { plainJson, type Seen } from './plain-json.js';
import { quickMoment } from './quick-moment.js';
import { readBack } from './read-back.js';
import type { ReadPolicies } from './read-input.js';
import { Refusal } from './refusal.js';

/** Reads a body in which everything is right; undefined for any other: the interpreter finds the words. */
export type ReadRight = (body: unknown, seen: Seen) => object | undefined;

/** A value led back to the stored one; undefined where it is refused, or where digits may have been lost. */
const back = (
  type: ColumnType,
  conversions: readonly ConversionPlan[],
  value: unknown,
  policies: ReadPolicies,
): unknown => {
  const { yields: first = type } = conversions[0] ?? {};
  if (readKind(first).isExact && typeof value !== 'string') return undefined;
  if (Number.isInteger(value) && !Number.isSafeInteger(value)) return undefined;
  const read = readBack(type, conversions, value, policies);
  return read instanceof Refusal ? undefined : read;
};

/** What a generated program may call. */
const helpersFor = (policies: ReadPolicies): Readonly<Record<string, unknown>> => ({
  /** The value as a column's type; undefined where it is none, or cannot be told from the value alone. */
  typed: (type: ColumnType, value: unknown): unknown => back(type, [], value, policies),
  back: (type: ColumnType, conversions: readonly ConversionPlan[], value: unknown): unknown =>
    back(type, conversions, value, policies),
  plainJson,
  isPlain: (value: unknown): boolean => {
    if (typeof value !== 'object' || value === null || value instanceof ExactNumber) return false;
    const prototype = Object.getPrototypeOf(value);
    return prototype === Object.prototype || prototype === null;
  },
  own: (value: object, name: string): unknown =>
    Object.hasOwn(value, name) ? (value as Record<string, unknown>)[name] : undefined,
  quickMoment,
  characters,
  isWhole: (text: string): boolean => !HALF.test(text),
});

/** A member of the change: the local that holds it; not sure: undefined where the body leaves it out. */
interface Target {
  readonly name: string;
  readonly local: string;
  readonly isSure: boolean;
}

/** Writes the function that reads one input: it gives up on whatever is not right at first sight. */
class InputProgram {
  readonly #out: SourceWriter;
  readonly #functionOf: (input: InputPlan) => string;
  readonly #amends: boolean;
  readonly #targets: Target[] = [];
  #locals = 0;

  constructor(out: SourceWriter, amends: boolean, functionOf: (input: InputPlan) => string) {
    this.#out = out;
    this.#amends = amends;
    this.#functionOf = functionOf;
  }

  emit(name: string, input: InputPlan): void {
    const body = this.#out.part();
    this.#fields(body, input.fields, 'b', !this.#amends);
    this.#out.line(`function ${name}(b,s){`);
    this.#out.line('if(!isPlain(b))return;');
    if (this.#targets.length > 0) this.#out.line(`let ${this.#targets.map(({ local }) => local).join()};`);
    this.#out.append(body);
    this.#change();
    this.#out.line('return c;}');
  }

  /** The change in the input's order: a literal up to the first member that may be missing. */
  #change(): void {
    const unsure = this.#targets.findIndex(({ isSure }) => !isSure);
    const sure = unsure === -1 ? this.#targets : this.#targets.slice(0, unsure);
    const literal = sure.map(({ name, local }) => `${this.#out.quoted(name)}:${local}`);
    this.#out.line(`const c={${literal.join()}};`);
    for (const { name, local } of this.#targets.slice(sure.length)) {
      this.#out.line(`if(${local}!==undefined)c[${this.#out.quoted(name)}]=${local};`);
    }
  }

  #local(): string {
    return `v${this.#locals++}`;
  }

  #fields(out: SourceWriter, fields: readonly InputField[], from: string, isSure: boolean): void {
    const count = this.#local();
    const all = this.#local();
    out.line(`let ${count}=0,${all}=0;for(const k in ${from})${all}++;`);
    for (const field of fields) this.#field(out, field, from, count, isSure);
    // A member that was not looked at, or one that is only inherited: not for a program to judge.
    out.line(`if(${count}!==${all})return;s.members+=${count};`);
  }

  #field(out: SourceWriter, field: InputField, from: string, count: string, isSure: boolean): void {
    const value = this.#local();
    const name = out.quoted(field.name);
    const isRequired = field.presence.kind === 'required' && !this.#amends;
    // A name that every object has by inheritance must be the body's own.
    out.line(
      `const ${value}=${field.name in Object.prototype ? `own(${from},${name})` : `${from}[${name}]`};`,
    );
    // Presets are read like values that were sent: by the interpreter.
    const absent = field.presence.kind === 'optional' || this.#amends ? '' : 'return;';
    out.line(`if(${value}===undefined){${absent}}else{${count}++;`);
    this.#read(out, field.node, value, isSure && isRequired);
    out.line('}');
  }

  #read(out: SourceWriter, node: InputNode, value: string, isSure: boolean): void {
    switch (node.kind) {
      case 'set':
        return this.#column(out, node, value, isSure);
      case 'inputGroup':
        out.line(`if(!isPlain(${value}))return;`);
        return this.#fields(out, node.fields, value, isSure);
      case 'nestedInput': {
        const target = this.#target(node.link.name, isSure);
        const read = this.#functionOf(node.input);
        if (node.link.kind !== 'toMany') {
          return out.line(`${target}=${read}(${value},s);if(${target}===undefined)return;`);
        }
        const few = node.min === null ? '' : `||${value}.length<${node.min}`;
        const many = node.max === null ? '' : `||${value}.length>${node.max}`;
        out.line(
          `if(!Array.isArray(${value})${few}${many})return;${target}=[];s.items+=${value}.length;s.rows+=${value}.length;`,
        );
        const item = `const x=${read}(${value}[i],s);if(x===undefined)return;${target}.push(x);`;
        return out.line(`for(let i=0;i<${value}.length;i++){${item}}`);
      }
      default:
        return node satisfies never;
    }
  }

  #target(name: string, isSure: boolean): string {
    const local = `t${this.#targets.length}`;
    this.#targets.push({ name, local, isSure });
    return local;
  }

  #column(
    out: SourceWriter,
    node: Extract<InputNode, { kind: 'set' }>,
    value: string,
    isSure: boolean,
  ): void {
    const target = this.#target(node.column.name, isSure);
    if (!node.column.nullable) {
      out.line(`if(${value}===null)return;`);
      return this.#stored(out, node, value, target);
    }
    out.line(`if(${value}===null)${target}=null;else{`);
    this.#stored(out, node, value, target);
    out.line('}');
  }

  /** The commonest types are checked in place; what does not pass is looked at again by the interpreter. */
  #stored(
    out: SourceWriter,
    { column, conversions }: Extract<InputNode, { kind: 'set' }>,
    value: string,
    target: string,
  ): void {
    const { type } = column;
    const { inPlace } = readKind(type);
    if (conversions.length === 0 && inPlace !== null) return out.line(inPlace(type, value, target, out));
    const { constants } = out;
    const call =
      conversions.length === 0
        ? `typed(${constants.name(type)},${value})`
        : `back(${constants.name(type)},${constants.name(conversions)},${value})`;
    out.line(`${target}=${call};if(${target}===undefined)return;`);
  }
}

/** The levels of objects and arrays that a body has which fits. */
export const depthOf = (fields: readonly InputField[]): number =>
  1 +
  Math.max(
    0,
    ...fields.map(({ node }) => {
      if (node.kind === 'set') return 0;
      if (node.kind === 'inputGroup') return depthOf(node.fields);
      return depthOf(node.input.fields) + (node.link.kind === 'toMany' ? 1 : 0);
    }),
  );

/** The text of the program that reads an input: a function for each input in it, the first of them returned. */
export const emitReader = (root: InputPlan, out: SourceWriter): void => {
  const functions = new ProgramFunctions<InputPlan>('r');
  const first = functions.name(root);
  functions.emitAll((name, input) => new InputProgram(out, input.amends, functions.name).emit(name, input));
  out.line(`return ${first};`);
};

/** The program that reads bodies in which everything is right; null where the platform forbids it. */
export const generateReader = (root: InputPlan, policies: ReadPolicies): ReadRight | null => {
  const out = new SourceWriter();
  emitReader(root, out);
  return instantiate(out.toString(), helpersFor(policies), out.constants.values) as ReadRight | null;
};
