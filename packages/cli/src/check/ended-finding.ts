import type { ReviewFinding } from 'gribo';
import { dayOf, editionsOf, type FindingRule, isOver } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { momentOf } from '../config/moment-of.js';
import { retiringFor } from '../retire/retire.js';
import { counted } from '../screen/counted.js';

/** An edition whose last day is over. */
export const ENDED: Omit<FindingRule, 'find'> = {
  code: 'edition-ended',
  severity: 'warning',
  rule: 'An edition has ended, and is still declared.',
  advice: 'Take out what it alone needs: gribo retire <edition> lists it.',
};

/** Editions that have ended, with how much of the source is there for them alone. */
export const endedFindings = async (
  config: GriboConfig,
  configPath: string,
): Promise<readonly ReviewFinding[]> => {
  const [oldest, next] = editionsOf(config.api.plan);
  const { name = '', deprecated = null } = oldest?.edition ?? {};
  if (next === undefined || !isOver(deprecated, dayOf(momentOf(config)))) return [];
  const { length } = (await retiringFor(config, configPath, name)).filter(({ holds }) => holds !== null);
  const { code, severity, advice } = ENDED;
  const alone = `${counted(length, 'condition')} ${length === 1 ? 'is' : 'are'} there for it alone`;
  const message = `It ended on ${deprecated?.sunset}, and is answered with 410; ${alone}.`;
  return [{ code, severity, advice, place: `edition ${name}`, message }];
};
