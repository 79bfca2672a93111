import { blameCaller } from './blame-caller.js';
import { GriboError } from './gribo-error.js';

/** One thing that is wrong with a declaration. */
export interface Finding {
  /** The place: an entity and link (`vessel.operator`), or a shape and member (`VesselCard.name`). */
  readonly path: string;
  /** What is wrong and what to do, in one or two sentences. */
  readonly message: string;
}

/**
 * A declaration is wrong. It lists everything that is wrong with it, not only the first thing.
 *
 * @example
 * try { model(entities, links) } catch (error) { for (const finding of error.findings) log(finding) }
 */
export class DeclarationError extends GriboError {
  static {
    this.prototype.name = 'DeclarationError';
  }
  declare readonly findings: readonly Finding[];

  constructor(subject: string, findings: readonly Finding[]) {
    const lines = findings.map((finding) => `  ${finding.path}: ${finding.message}`);
    const things = findings.length === 1 ? 'one thing is' : `${findings.length} things are`;
    super('DECLARATION', subject, [`${subject}: ${things} wrong`, ...lines].join('\n'));
    // The message says all of it: a program that ends with it prints that, its own line, and nothing once more.
    Object.defineProperties(this, {
      code: { enumerable: false },
      path: { enumerable: false },
      findings: { value: Object.freeze([...findings]) },
    });
    blameCaller(this, new.target);
  }

  /** Throws where there are findings; the one place that decides it. */
  static throwIfAny(subject: string, findings: readonly Finding[]): void {
    if (findings.length > 0) throw new this(subject, findings);
  }
}
