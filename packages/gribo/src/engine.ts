import { GriboError } from './errors/gribo-error.js';
import { mayGenerate } from './util/may-generate.js';
import type { EngineName } from './write/row-engine.js';

/** The engine that is wanted, if the platform allows it. */
export const engineFor = (wanted: 'auto' | EngineName = 'auto'): EngineName => {
  if (wanted === 'interpreted') return 'interpreted';
  if (mayGenerate()) return 'generated';
  if (wanted === 'auto') return 'interpreted';
  const help = 'use engine "auto" or "interpreted"';
  throw new GriboError('ENGINE', 'engine', `this platform forbids generated code: ${help}`);
};
