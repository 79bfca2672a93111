import { type MemoryStore, memoryStore, type SampledRows, samples } from 'gribo';
import { Mistake } from '../screen/mistake.js';
import type { GriboConfig } from './config.js';

/** The sample rows of a configuration; null where it names no model to make them by. */
export const samplesOf = ({ model, samples: wishes }: GriboConfig): SampledRows | null =>
  model === undefined ? null : samples(model, wishes);

/** A store of sample rows. @throws {Mistake} where the configuration names no model */
export const sampleStore = (config: GriboConfig): MemoryStore => {
  const { model } = config;
  const rows = samplesOf(config);
  if (model === undefined || rows === null) {
    throw new Mistake('Sample rows are made by the model: export it from the configuration as `model`.');
  }
  return memoryStore(model, rows);
};
