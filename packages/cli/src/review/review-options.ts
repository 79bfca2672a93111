import type { ReviewOptions } from 'gribo';
import type { GriboConfig } from '../config/config.js';
import { samplesOf } from '../config/samples-of.js';

/** What a configuration says about reviews, with its sample rows. */
export const reviewOptions = (config: GriboConfig): ReviewOptions => {
  const { model, style, accepted } = config;
  const samples = samplesOf(config);
  return {
    ...(model === undefined ? {} : { model }),
    ...(style === undefined ? {} : { style }),
    ...(accepted === undefined ? {} : { accepted }),
    ...(samples === null ? {} : { samples }),
  };
};
