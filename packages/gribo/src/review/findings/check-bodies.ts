import type { ApiPlan, EndpointPlan } from '../../plan/api-plan.js';
import { audiencesAt } from '../../plan/audiences-at.js';
import { type BodyPlan, isAboutMany } from '../../plan/declared.js';
import type { ResolvedField, ResolvedShape } from '../../plan/resolved.js';
import { resolveBody } from '../../resolve/resolve-body.js';
import type { ReviewFinding } from '../finding.js';

/** An endpoint that sends something. */
type Sending = EndpointPlan & { readonly returns: BodyPlan };

const sends = (endpoint: EndpointPlan): endpoint is Sending => endpoint.returns !== null;

/** What an endpoint sends to one audience, nothing asked. */
const sentTo = ({ name, returns }: Sending, audience: string | null) =>
  resolveBody(returns, { endpoint: name, ...(audience === null ? {} : { audience }) }).body;

type VisitField = (field: ResolvedField, path: string) => void;

/** Visits every member of a shape, nested ones too, with dotted paths. */
const visitFields = (fields: readonly ResolvedField[], above: string, visit: VisitField): void => {
  for (const field of fields) {
    const path = above === '' ? field.name : `${above}.${field.name}`;
    visit(field, path);
    const { node } = field;
    if (node.kind === 'group') visitFields(node.fields, path, visit);
    else if (node.kind === 'nested' || node.kind === 'first') visitFields(node.shape.fields, path, visit);
    else if (node.kind === 'nestedList') visitFields(node.shape.fields, `${path}[]`, visit);
  }
};

/** How many values a row of a shape has; lists inside count once. */
const valuesOf = (shape: ResolvedShape): number => {
  let count = 0;
  visitFields(shape.fields, '', ({ node }) => {
    if (node.kind !== 'group' && node.kind !== 'nested' && node.kind !== 'first') count++;
  });
  return count;
};

/** Lists inside the rows of a list that nothing limits. */
const checkUnbounded = (api: ApiPlan, endpoint: Sending): readonly ReviewFinding[] => {
  if (!isAboutMany(endpoint.returns)) return [];
  const found = new Map<string, ReviewFinding>();
  for (const audience of audiencesAt(endpoint, api)) {
    visitFields(sentTo(endpoint, audience).content.fields, '', ({ node }, path) => {
      if (node.kind !== 'nestedList' || node.selection.limit !== null) return;
      found.set(path, {
        code: 'unbounded',
        severity: 'warning',
        place: `${endpoint.name}/${path}`,
        message: `Every row of the list carries all of its ${node.link.name}, however many there are.`,
        advice: 'Limit it with some(…, { limit }), count it, or give it an endpoint of its own.',
      });
    });
  }
  return [...found.values()];
};

/** A list whose rows say more than the endpoint that reads one of them. */
const checkWeight = (api: ApiPlan, endpoint: Sending): readonly ReviewFinding[] => {
  const { name, operation } = endpoint;
  if (operation !== 'list') return [];
  const sibling = api.endpoints.find(
    (other) => other.operation === 'read' && other.name === name.replace(/list$/, 'read'),
  );
  if (sibling === undefined || !sends(sibling)) return [];
  const heavier = audiencesAt(endpoint, api).find(
    (audience) => valuesOf(sentTo(endpoint, audience).content) > valuesOf(sentTo(sibling, audience).content),
  );
  if (heavier === undefined) return [];
  const listed = valuesOf(sentTo(endpoint, heavier).content);
  const read = valuesOf(sentTo(sibling, heavier).content);
  return [
    {
      code: 'heavy-list',
      severity: 'warning',
      place: name,
      message: `A row of the list has ${listed} values; ${sibling.name} sends ${read}.`,
      advice: 'Let the list say less: at({ list, read }) makes a member differ, or absent.',
    },
  ];
};

/** Members that callers of no audience get, and some audience does not. */
const checkNoAudience = (api: ApiPlan, endpoint: Sending): readonly ReviewFinding[] => {
  const audiences = audiencesAt(endpoint, api);
  if (!audiences.includes(null)) return [];
  const pathsFor = (audience: string | null): Set<string> => {
    const paths = new Set<string>();
    visitFields(sentTo(endpoint, audience).content.fields, '', (_field, path) => paths.add(path));
    return paths;
  };
  const open = [...pathsFor(null)];
  const others = audiences.filter((name) => name !== null).map((name) => [name, pathsFor(name)] as const);
  return open.flatMap((path): readonly ReviewFinding[] => {
    const without = others.filter(([, paths]) => !paths.has(path)).map(([name]) => name);
    if (without.length === 0) return [];
    return [
      {
        code: 'no-audience',
        severity: 'warning',
        place: `${endpoint.name}/${path}`,
        message: `Callers of no audience get it, and ${without.join(', ')} does not.`,
        advice: 'Name the audiences that get it, instead of those that do not.',
      },
    ];
  });
};

const overdue = (place: string, what: string, sunset: string): ReviewFinding => ({
  code: 'overdue',
  severity: 'warning',
  place,
  message: `${what} was to be gone after ${sunset}.`,
  advice: 'Remove it, or give it a later day.',
});

/** What is still there after the day that was announced as its last. */
const checkSunsets = (api: ApiPlan, endpoint: EndpointPlan, today: string): readonly ReviewFinding[] => {
  const found = new Map<string, ReviewFinding>();
  const { name, deprecated } = endpoint;
  if (deprecated?.sunset != null && deprecated.sunset < today) {
    found.set('', overdue(name, 'The endpoint', deprecated.sunset));
  }
  if (sends(endpoint)) {
    for (const audience of audiencesAt(endpoint, api)) {
      visitFields(sentTo(endpoint, audience).content.fields, '', (field, path) => {
        const sunset = field.deprecated?.sunset ?? today;
        if (sunset < today) found.set(path, overdue(`${name}/${path}`, 'The member', sunset));
      });
    }
  }
  return [...found.values()];
};

/** What is found in what the endpoints send. */
export const checkBodies = (api: ApiPlan, today: string): readonly ReviewFinding[] =>
  api.endpoints.flatMap((endpoint) => [
    ...(sends(endpoint)
      ? [...checkUnbounded(api, endpoint), ...checkWeight(api, endpoint), ...checkNoAudience(api, endpoint)]
      : []),
    ...checkSunsets(api, endpoint, today),
  ]);
