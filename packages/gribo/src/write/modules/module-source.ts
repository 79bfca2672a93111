import { SourceWriter } from '../../codegen/source-writer.js';
import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { Figure, ListSelection } from '../../plan/condition.js';
import type { LinkPlan } from '../../plan/entity-plan.js';
import { firstThere } from '../../plan/first-there.js';
import type { ResolvedBody } from '../../plan/resolved.js';
import { compares } from '../../values/compares.js';
import { lookAtFigure } from '../../values/figures.js';
import { pickRows } from '../../values/pick-rows.js';
import { emitProgram } from '../generated/generate.js';
import * as runtime from '../generated/runtime.js';
import { conversionImport } from './conversion-import.js';
import { figureData, linkData, literalSource, selectionData } from './literal-source.js';
import { walkFunctions } from './walk-functions.js';

/** Modules of the user's with functions that members call: what is imported from where. */
export type FunctionModules = Readonly<Record<string, Readonly<Record<string, unknown>>>>;

/** The module that stand-alone serializers take their helpers from. */
const RUNTIME = 'gribo/runtime';

/** What declarations take along of our own: modules take it from the runtime. */
const OURS: ReadonlyMap<unknown, string> = new Map<unknown, string>([
  [firstThere, 'firstThere'],
  [compares, 'compares'],
  [lookAtFigure, 'lookAtFigure'],
  [pickRows, 'pickRows'],
]);

const isIdentifier = (name: string): boolean => /^[A-Za-z_$][\w$]*$/.test(name);

/** Writes the module of one body. */
class ModuleWriter {
  readonly findings: Finding[] = [];
  readonly #body: ResolvedBody;
  readonly #modules: FunctionModules;
  readonly #head = new SourceWriter();
  /** The names of imported functions by what they are: the user's, and those of conversions. */
  readonly #imported = new Map<unknown, string>();
  readonly #helpers = new Set<string>(['standAlone']);

  constructor(body: ResolvedBody, modules: FunctionModules) {
    this.#body = body;
    this.#modules = modules;
  }

  write(): string {
    const { shape, kind } = this.#body;
    this.#gather();
    if (this.findings.length > 0) return '';
    const out = new SourceWriter();
    const write = emitProgram('bytes', shape, out);
    const make = emitProgram('object', shape, out);
    const programs = out.toString();
    const constants = out.constants.values.map((value, i) => `const k${i}=${this.#constant(out, value)};`);
    const name = out.quoted(shape.name);
    const facts = this.#body.facts.length === 0 ? '' : `,${this.#constant(out, this.#body.facts)}`;
    const made = `standAlone(${kind === 'list'},${name},${write},${make}${facts})`;
    this.#useHelpers(programs);
    return [
      `import{${[...this.#helpers].join(',')}}from${out.quoted(RUNTIME)};`,
      this.#head.toString(),
      ...constants,
      programs,
      `export const{object,json,bytes,stream}=${made};`,
      '',
    ].join('\n');
  }

  /** Finds where the user's functions come from, and what conversions call. */
  #gather(): void {
    walkFunctions(this.#body.shape, {
      user: (called, member) => {
        if (!this.#imported.has(called)) this.#import(called, member);
      },
      conversion: (conversion) => {
        if (this.#imported.has(conversion.apply)) return;
        const local = `c${this.#imported.size}`;
        this.#head.line(conversionImport(conversion, local, this.#head));
        this.#imported.set(conversion.apply, local);
      },
    });
  }

  #import(called: unknown, member: string): void {
    const ours = OURS.get(called);
    if (ours !== undefined) {
      this.#helpers.add(ours);
      this.#imported.set(called, ours);
      return;
    }
    for (const [from, exports] of Object.entries(this.#modules)) {
      const [name] = Object.entries(exports).find(([, value]) => value === called) ?? [];
      if (name === undefined) continue;
      const local = `f${this.#imported.size}`;
      const exported = isIdentifier(name) ? name : this.#head.quoted(name);
      this.#head.line(`import{${exported} as ${local}}from${this.#head.quoted(from)};`);
      this.#imported.set(called, local);
      return;
    }
    const message =
      'it calls a function that no module exports: export it, and name the module in `functions`';
    if (!this.findings.some(({ path }) => path === member)) this.findings.push({ path: member, message });
  }

  /** The helpers that a program calls by name. */
  #useHelpers(programs: string): void {
    const called = new Set(programs.match(/\b[A-Za-z]\w*(?=\()/g));
    for (const name of Object.keys(runtime)) {
      if (called.has(name)) this.#helpers.add(name);
    }
  }

  #constant(out: SourceWriter, value: unknown): string {
    const nameOf = (called: unknown): string => this.#imported.get(called) ?? 'null';
    if (typeof value !== 'object' || value === null) return literalSource(out, value, nameOf);
    if ('where' in value) return literalSource(out, selectionData(value as ListSelection), nameOf);
    if ('yields' in value) return literalSource(out, figureData(value as Figure), nameOf);
    if ('target' in value) return literalSource(out, linkData(value as LinkPlan), nameOf);
    return literalSource(out, value, nameOf);
  }
}

/**
 * The source of a module that writes one body: its programs, with imports of helpers and of the
 * user's functions only.
 *
 * @throws {DeclarationError} `DECLARATION` listing every member that calls a function which no module exports
 */
export const moduleSource = (body: ResolvedBody, modules: FunctionModules): string => {
  const writing = new ModuleWriter(body, modules);
  const source = writing.write();
  DeclarationError.throwIfAny(`serializer of ${body.shape.name}`, writing.findings);
  return source;
};
