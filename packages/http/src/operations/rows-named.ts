import type { Key } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import { notFound } from '../problems/not-found.js';
import { equalTo, valuesFromTexts } from '../request/key.js';
import { filledPath } from '../request/routes.js';
import type { Exchange } from './exchange.js';

/** The row and the parent that a path names. @throws {Problem} 404 where they can be none */
export const rowsNamed = (
  { entity, under, parameters: names }: EndpointPlan,
  parameters: Readonly<Record<string, string>>,
): Pick<Exchange, 'key' | 'where' | 'parentValues'> => {
  const isKeyed = entity.key.length > 0 && entity.key.every((name) => names.includes(name));
  const key: Key | null = isKeyed
    ? valuesFromTexts(
        entity,
        entity.key,
        entity.key.map((name) => parameters[name]),
      )
    : null;
  const parentKey =
    under === null
      ? null
      : valuesFromTexts(
          under.link.target,
          under.link.to,
          under.parameters.map((name) => parameters[name]),
        );
  if ((isKeyed && key === null) || (under !== null && parentKey === null)) throw notFound();
  if (under === null || parentKey === null) return { key, where: [], parentValues: {} };
  const { from } = under.link;
  const parentValues = Object.fromEntries(from.map((name, i) => [name, parentKey[i]]));
  return { key, where: equalTo(entity, from, parentKey), parentValues };
};

/** Where a new row is: at the path that reads it, if there is one. */
export const locationOf = (
  { endpoint, sibling, parameters }: Exchange,
  base: string,
  created: Key | null,
): Record<string, string> => {
  if (created === null || sibling === null) return {};
  const key = Object.fromEntries(endpoint.entity.key.map((name, i) => [name, String(created[i])]));
  // Such a part of a path means the one above (RFC 3986, section 5.2.4), escaped or not.
  if (Object.values(key).some((text) => text === '.' || text === '..')) return {};
  return { location: base + filledPath(sibling.path, { ...parameters, ...key }) };
};
