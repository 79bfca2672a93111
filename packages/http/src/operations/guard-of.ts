import { type LoadPlan, loadPlan } from 'gribo';
import type { EndpointPlan, Guard } from 'gribo/kit';
import { Problem } from '../problems/problem.js';
import { checkUnchanged, namesOne } from '../request/preconditions.js';
import { situationOf } from '../request/situation-of.js';
import { entityTag } from '../response/entity-tag.js';
import { planned, sending } from '../response/outgoing-body.js';
import type { Exchange } from './exchange.js';
import { asData } from './read-row.js';
import { rowPlan } from './row-plan.js';

/** The tags of a row as its collection would send it now, in every format. */
const currentTags = (exchange: Exchange, sibling: EndpointPlan, row: object): readonly string[] => {
  if (sibling.returns === null) return [];
  const content = sending(
    sibling.returns,
    situationOf(sibling, exchange.audience),
    exchange.caller.given,
    asData(sibling, row),
  );
  return exchange.settings.formats.flatMap(({ write, onlyLists }) =>
    write === undefined || onlyLists === true ? [] : [entityTag(write(content))],
  );
};

/** The key of a row and nothing else. */
const keyPlan = (entity: EndpointPlan['entity']): LoadPlan =>
  rowPlan(
    entity,
    entity.columns.filter((column) => column.key),
  );

/** What must hold for a change: that the row is where the path says, and as its caller knows it. */
export const guardOf = async (exchange: Exchange): Promise<Guard> => {
  const { asked, sibling, where, endpoint, signal, settings } = exchange;
  const ifMatch = asked.header('if-match');
  const ifNoneMatch = asked.header('if-none-match');
  if (ifMatch === null && ifNoneMatch === null) return { where, signal };
  await Promise.all(settings.formats.map(({ load }) => load?.()));
  const plan =
    sibling === null || sibling.returns === null
      ? keyPlan(endpoint.entity)
      : loadPlan(planned(sibling.returns), situationOf(sibling, exchange.audience));
  const row = (stored: object): void => {
    const current = (): readonly string[] => (sibling === null ? [] : currentTags(exchange, sibling, stored));
    // In the order of RFC 9110, section 13.2.2.
    if (ifMatch !== null) checkUnchanged(ifMatch, current, settings.weakenedTags);
    if (ifNoneMatch !== null && namesOne(ifNoneMatch, current))
      throw new Problem(412, { detail: 'It is as the request says that it must not be.' });
  };
  return { where, signal, check: { plan, row } };
};
