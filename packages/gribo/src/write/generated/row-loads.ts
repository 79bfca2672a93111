import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ColumnType } from '../../plan/column-type.js';
import type { ListSelection, RowCondition, SettledValue } from '../../plan/condition.js';
import type { LinkPlan } from '../../plan/entity-plan.js';
import { mayBeNull, mayEndInNull } from '../../plan/null-safety.js';
import { valueType } from '../../plan/value-type.js';
import { writeKind } from './kinds.js';

/** A local variable of the program that holds a checked value. */
export interface Local {
  readonly name: string;
  readonly type: ColumnType;
  readonly nullable: boolean;
  /** The local that holds the value in the form it is written in: milliseconds, digits, JSON text. */
  readonly ready: string;
}

/** A local that holds the rows of a list, or null. */
export interface RowsLocal {
  readonly name: string;
  readonly nullable: boolean;
}

const isEverything = ({ pick, limit }: ListSelection): boolean => pick === null && limit === null;

/** The code that reads and checks what one shape needs of its row, before anything is written. */
export class RowLoads {
  readonly out: SourceWriter;
  readonly locals: string[] = [];
  #known = new Map<string, string>();

  constructor(out: SourceWriter) {
    this.out = out;
  }

  /** A new local, declared at the head of the function so that every block sees it. */
  local(letter: string): string {
    const name = `${letter}${this.locals.length}`;
    this.locals.push(name);
    return name;
  }

  halt(member: string): string {
    return `halt(${this.out.quoted(member)});`;
  }

  /** Code that runs only where `condition` holds; what it loads is forgotten after it. */
  onlyIf<T>(condition: string, inside: () => T): T {
    const known = this.#known;
    this.#known = new Map(known);
    this.out.line(`if(${condition}){`);
    const made = inside();
    this.out.line('}');
    this.#known = known;
    return made;
  }

  /** The local of the row at the end of to-one links; `r` is the row itself. */
  row(path: readonly LinkPlan[], member: string): string {
    const last = path.at(-1);
    if (last === undefined) return 'r';
    const key = JSON.stringify(path.map((link) => link.name));
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    const before = path.slice(0, -1);
    const from = this.row(before, member);
    const name = this.local('l');
    const bad = last.nullable ? `${name}!==null&&` : `${name}===null||`;
    const load = `${name}=${from}[${this.out.quoted(last.name)}];if(${bad}typeof ${name}!=="object")${this.halt(member)}`;
    this.#unlessNull(before, from, name, load);
    this.#known.set(key, name);
    return name;
  }

  /** The rows of a to-many link. */
  rows(path: readonly LinkPlan[], link: LinkPlan, selection: ListSelection, member: string): RowsLocal {
    const from = this.row(path, member);
    const name = this.local('a');
    this.#unlessNull(path, from, name, this.#loadRows(from, name, link, selection, member));
    return { name, nullable: mayEndInNull(path) };
  }

  #loadRows(from: string, name: string, link: LinkPlan, selection: ListSelection, member: string): string {
    if (!isEverything(selection)) {
      const { constants } = this.out;
      return `${name}=select(${from},${constants.name(link)},${constants.name(selection)},F);`;
    }
    const other = `${name}=rows(${name});if(${name}===null)${this.halt(member)}`;
    return `${name}=${from}[${this.out.quoted(link.name)}];if(!Array.isArray(${name})){${other}}`;
  }

  /** Null where there is no row to load from. */
  #unlessNull(path: readonly LinkPlan[], from: string, name: string, load: string): void {
    this.out.line(mayEndInNull(path) ? `if(${from}===null)${name}=null;else{${load}}` : load);
  }

  /** The local of a value, read and checked. */
  value(node: SettledValue, member: string): Local {
    const type = valueType(node);
    const nullable = mayBeNull(node);
    const key =
      node.kind === 'column' ? `c${JSON.stringify([node.path.map((l) => l.name), node.column.name])}` : null;
    const known = key === null ? undefined : this.#known.get(key);
    if (known !== undefined) return { name: known, type, nullable, ready: `${known}_` };
    const name = this.local('v');
    this.locals.push(`${name}_`);
    this.#load(node, name, member);
    if (key !== null) this.#known.set(key, name);
    return { name, type, nullable, ready: `${name}_` };
  }

  #load(node: SettledValue, name: string, member: string): void {
    switch (node.kind) {
      case 'column':
        return this.#loadColumn(node, name, member);
      case 'fact':
        // Facts are of their types already: this readies them for being written.
        this.out.line(`${name}=F[${this.out.quoted(node.fact.name)}];`);
        return this.#check(node.fact.type, name, node.fact.nullable, member);
      case 'derived': {
        const guard = node.guard.length === 0 ? null : this.row(node.guard, member);
        const call = (): void => {
          const inputs = node.inputs.map((input) => this.value(input, member).name);
          this.out.line(`${name}=${this.out.constants.name(node.compute)}(${inputs.join()});`);
          this.#check(node.type, name, node.nullable, member);
        };
        if (guard === null) return call();
        this.out.line(this.#setNull(name));
        return this.onlyIf(`${guard}!==null`, call);
      }
      case 'converted': {
        const input = this.value(node.input, member);
        const { apply, choices, yields } = node.conversion;
        const { constants } = this.out;
        const taken = [input.name, ...choices.map((choice) => constants.name(choice))];
        const call = `${constants.name(apply)}(${taken.join()})`;
        this.out.line(input.nullable ? `${name}=${input.name}===null?null:${call};` : `${name}=${call};`);
        return this.#check(yields, name, input.nullable, member);
      }
      case 'figure': {
        const from = this.row(node.path, member);
        const { constants } = this.out;
        if (node.of !== null) {
          const taken = [node.link, node.selection, node.of].map((part) => constants.name(part));
          this.out.line(`${name}=${from}===null?null:figure(${from},${taken.join()},F);`);
          return this.#check(node.of.yields, name, true, member);
        }
        const call = `${name}=count(${from},${constants.name(node.link)},${constants.name(node.selection)},F);`;
        return this.#unlessNull(node.path, from, name, `${call}if(${name}===undefined)${this.halt(member)}`);
      }
      case 'constant':
        this.out.line(`${name}=copyOf(${this.out.quoted(JSON.stringify(node.value))});`);
        return this.#check(valueType(node), name, true, member);
      default:
        return node satisfies never;
    }
  }

  #loadColumn(node: Extract<SettledValue, { kind: 'column' }>, name: string, member: string): void {
    const { path, column } = node;
    const from = this.row(path, member);
    const read =
      column.via === null
        ? `${from}[${this.out.quoted(column.name)}]`
        : `${this.out.constants.name(column.via)}(${from})`;
    if (!mayEndInNull(path)) {
      this.out.line(`${name}=${read};`);
      return this.#check(column.type, name, column.nullable, member);
    }
    this.out.line(`if(${from}===null){${this.#setNull(name)}}else{${name}=${read};`);
    this.#check(column.type, name, column.nullable, member);
    this.out.line('}');
  }

  /** Null in both its forms. */
  #setNull(name: string): string {
    return `${name}=null;${name}_="null";`;
  }

  /** Stops where the value is not of its type, and readies it for being written. */
  #check(type: ColumnType, name: string, nullable: boolean, member: string): void {
    const places = { name, ready: `${name}_` };
    const lines = writeKind(type).check(places, type, this.halt(member), this.out);
    const guarded = nullable && type.kind !== 'json';
    this.out.line(guarded ? `if(${name}!==null){${lines}}` : lines);
  }

  /** The local that says whether a condition holds; a part that decides keeps the others from being tested. */
  test(condition: RowCondition, member: string): string {
    const name = this.local('h');
    this.#test(condition, name, member);
    return name;
  }

  #test(condition: RowCondition, name: string, member: string): void {
    switch (condition.kind) {
      case 'compares': {
        const { left, operator, right, compare } = condition;
        const { constants } = this.out;
        const other = right.kind === 'value' ? constants.name(right.value) : this.value(right, member).name;
        const taken = [
          this.out.quoted(operator),
          constants.name(left.column.type),
          this.value(left, member).name,
          other,
        ];
        return this.out.line(`${name}=${constants.name(compare)}(${taken.join()});`);
      }
      case 'thereIs': {
        const { name: rows, nullable } = this.rows(
          condition.path,
          condition.link,
          condition.selection,
          member,
        );
        return this.out.line(`${name}=${nullable ? `${rows}!==null&&` : ''}${rows}.length>0;`);
      }
      case 'holds': {
        const guard = condition.guard.length === 0 ? null : this.row(condition.guard, member);
        const call = (): void => {
          const inputs = condition.inputs.map((input) => this.value(input, member).name);
          this.out.line(`${name}=${this.out.constants.name(condition.test)}(${inputs.join()});`);
          this.out.line(`if(${name}!==true&&${name}!==false)${this.halt(member)}`);
        };
        if (guard === null) return call();
        this.out.line(`${name}=false;`);
        return this.onlyIf(`${guard}!==null`, call);
      }
      case 'asked':
        // Of what is left open nothing is asked.
        return this.out.line(`${name}=false;`);
      case 'all':
      case 'any': {
        this.out.line(`${name}=${condition.kind === 'all'};`);
        const goOn = condition.kind === 'all' ? name : `!${name}`;
        for (const part of condition.of) this.onlyIf(goOn, () => this.#test(part, name, member));
        return;
      }
      case 'not':
        this.#test(condition.of, name, member);
        this.out.line(`${name}=!${name};`);
        return;
      default:
        return condition satisfies never;
    }
  }
}
