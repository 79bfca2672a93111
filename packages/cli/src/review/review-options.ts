import type { ReviewOptions } from 'gribo';
import { dayOf } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { momentOf } from '../config/moment-of.js';
import { samplesOf } from '../config/samples-of.js';

/** What a configuration says about reviews, with its sample rows. */
export const reviewOptions = (config: GriboConfig): ReviewOptions => {
  const { model, style, accepted } = config;
  const samples = samplesOf(config);
  const formats = config.formats?.filter(({ read }) => read !== undefined).map(({ name }) => name);
  const rows = config.policies?.rows;
  const serving = {
    audience: config.caller !== undefined,
    ...(formats === undefined ? {} : { formats }),
    ...(config.cache === undefined ? {} : { cache: config.cache }),
    ...(rows === undefined ? {} : { rows }),
  };
  return {
    serving,
    today: dayOf(momentOf(config)),
    ...(model === undefined ? {} : { model }),
    ...(style === undefined ? {} : { style }),
    ...(accepted === undefined ? {} : { accepted }),
    ...(samples === null ? {} : { samples }),
  };
};
