import { GriboError } from '../errors/gribo-error.js';
import { mayGenerate } from './may-generate.js';

/** `generated`: code made for the plan. `interpreted`: closures, for places that forbid such code. */
export type EngineName = 'generated' | 'interpreted';

export interface EngineOptions {
  /**
   * `generated` makes code for the plan, once, at its first use; `interpreted` uses closures, for places that forbid
   * such code; `auto`, the default, generates where it may, once there are rows enough to be worth it.
   */
  readonly engine?: 'auto' | EngineName;
}

/** When code is made: never, at the first use, or when it is worth it. */
export type Generating = 'never' | 'at once' | 'late';

/** When code is made, and why never where it is not; null where it is. */
export interface ChosenEngine {
  readonly generating: Generating;
  readonly because: string | null;
}

/** Why no code is made where it may not be. */
const forbidden = 'this platform forbids generated code';

/** Something that is at work by one of the engines, as far as is known by now. */
interface Working {
  readonly isGenerated: boolean;
}

export const engineOf = ({ isGenerated }: Working): EngineName => (isGenerated ? 'generated' : 'interpreted');

/** Why no code is at work; null where it is. The platform may have forbidden it after it was chosen. */
export const becauseOf = ({ isGenerated }: Working, because: string | null): string | null =>
  isGenerated ? null : (because ?? forbidden);

/** The engine that is wanted, if the platform allows it. */
export const engineFor = (wanted: 'auto' | EngineName = 'auto'): ChosenEngine => {
  if (wanted === 'interpreted') return { generating: 'never', because: 'it was asked for' };
  if (mayGenerate()) return { generating: wanted === 'auto' ? 'late' : 'at once', because: null };
  if (wanted === 'auto') return { generating: 'never', because: forbidden };
  throw new GriboError('ENGINE', 'engine', `${forbidden}: use engine "auto" or "interpreted"`);
};
