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

/** The engine at work, and why it is that one where it makes no code; null where it does. */
export interface ChosenEngine {
  readonly engine: EngineName;
  readonly because: string | null;
}

/** Why no code is made where it may not be. */
export const forbidden = 'this platform forbids generated code';

/** The engine that is wanted, if the platform allows it. */
export const engineFor = (wanted: 'auto' | EngineName = 'auto'): ChosenEngine => {
  if (wanted === 'interpreted') return { engine: 'interpreted', because: 'it was asked for' };
  if (mayGenerate()) return { engine: 'generated', because: null };
  if (wanted === 'auto') return { engine: 'interpreted', because: forbidden };
  throw new GriboError('ENGINE', 'engine', `${forbidden}: use engine "auto" or "interpreted"`);
};
