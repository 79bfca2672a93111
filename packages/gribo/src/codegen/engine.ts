import { GriboError } from '../errors/gribo-error.js';
import { mayGenerate } from './may-generate.js';

/** `generated`: code made for the plan. `interpreted`: closures, for places that forbid such code. */
export type EngineName = 'generated' | 'interpreted';

export interface EngineOptions {
  /**
   * `generated` makes code for the plan, once; `interpreted` uses closures, for places that forbid
   * such code; `auto`, the default, generates where it may.
   */
  readonly engine?: 'auto' | EngineName;
}

/** The engine that is wanted, if the platform allows it. */
export const engineFor = (wanted: 'auto' | EngineName = 'auto'): EngineName => {
  if (wanted === 'interpreted') return 'interpreted';
  if (mayGenerate()) return 'generated';
  if (wanted === 'auto') return 'interpreted';
  const help = 'use engine "auto" or "interpreted"';
  throw new GriboError('ENGINE', 'engine', `this platform forbids generated code: ${help}`);
};
