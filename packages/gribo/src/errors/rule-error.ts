import { GriboError } from './gribo-error.js';

/**
 * A change was refused because a row is, or would become, one that the caller may not change.
 *
 * @example
 * memoryStore(db).amend('vessel', [1], { name: 'Anselma' }).catch((error) => { if (error.code === 'RULE') say(error.about) })
 */
export class RuleError extends GriboError {
  static {
    this.prototype.name = 'RuleError';
  }
  readonly entity: string;
  /** The rule in a sentence; null where nothing is said. */
  readonly about: string | null;

  constructor(entity: string, about: string | null) {
    const words = about === null ? '' : `: ${about}`;
    super('RULE', entity, `a row of ${entity} is or would be one that the caller may not change${words}`);
    this.entity = entity;
    this.about = about;
  }
}
