import { editionPlace } from '@gribo/http';
import { contractOf, type Difference, lineage, memoryStore } from 'gribo';
import { type EndpointExamples, type EndpointPlan, examplesOf } from 'gribo/kit';
import { inAskedEdition } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { samplesOf } from '../config/samples-of.js';
import { audienceWords } from '../review/audience-words.js';
import { editionSteps, type Step } from './edition-steps.js';

/** What a client does about a change: a sentence for each code that asks for something. */
const ADVICE: Readonly<Partial<Record<Difference['code'], (step: Step) => string>>> = {
  'endpoint-removed': () => 'Do without it: it is not answered in this edition.',
  'route-changed': () => 'Ask at the new place.',
  'audience-removed': () => 'Ask as somebody whom it still answers.',
  'parameter-removed': ({ was }) => `Leave \`${was}\` out of the query: it is refused.`,
  'parameter-added': ({ effect, is }) => (effect === 'breaking' ? `Send \`${is}\` with each request.` : ''),
  'parameter-changed': () => 'Send what it takes now.',
  'body-removed': () => 'Do not read a body: there is none.',
  'body-changed': () =>
    'Read the body as it is in the example: of a page, the rows are its `items`, and the links in the header `Link` lead to the others.',
  'page-changed': () => 'Ask for the pages after the first one too.',
  'member-removed': ({ side, was }) =>
    side === 'request' ? `Do not send \`${was}\`: it is refused.` : `Do without \`${was}\`: it is not sent.`,
  'member-added': ({ effect, is }) => (effect === 'breaking' ? `Send \`${is}\`.` : ''),
  'type-changed': ({ side }) =>
    side === 'request' ? 'Send it as it is in the example.' : 'Read it as it is in the example.',
  'choice-added': () => 'Expect the new value.',
  'choice-removed': ({ side }) => (side === 'request' ? 'Do not send the value that went.' : ''),
  'limit-tightened': ({ side }) => (side === 'request' ? 'Send values within the new limit.' : ''),
  'limit-loosened': ({ side }) => (side === 'response' ? 'Expect values beyond the old limit.' : ''),
  'null-added': ({ side }) => (side === 'response' ? 'Expect `null`.' : ''),
  'null-removed': ({ side }) => (side === 'request' ? 'Do not send `null`.' : ''),
  'presence-loosened': ({ side }) => (side === 'response' ? 'Expect that it is not there.' : ''),
  'presence-tightened': ({ side, is }) => (side === 'request' ? `Send \`${is}\` always.` : ''),
  'constant-changed': () => 'Expect the new value.',
};

const adviceOn = (step: Step): string => {
  if (step.was !== null && step.is !== null && step.was !== step.is)
    return step.side === 'request'
      ? `Send \`${step.is}\` instead of \`${step.was}\`.`
      : `Read \`${step.is}\` instead of \`${step.was}\`.`;
  return ADVICE[step.code]?.(step) ?? '';
};

/** One edition, with what is needed to show examples of it. */
interface Shown {
  readonly config: GriboConfig;
  readonly examples: Readonly<Record<string, EndpointExamples>>;
}

const endpointIn = ({ config }: Shown, name: string): EndpointPlan | undefined =>
  config.api.plan.endpoints.find((endpoint) => endpoint.name === name);

const routeIn = (shown: Shown, name: string): string => {
  const endpoint = endpointIn(shown, name);
  return endpoint === undefined ? '' : `${endpoint.method} ${endpoint.path}`;
};

/** An example, with the members on the way to one alone; the whole where it has no such member. */
const excerpt = (example: unknown, path: string | null): unknown => {
  const [first = '', ...rest] = (path ?? '').split('.');
  if (Array.isArray(example)) return example.slice(0, 1).map((one) => excerpt(one, path));
  if (path === null || path === '' || typeof example !== 'object' || example === null) return example;
  const { items } = example as { readonly items?: unknown };
  const name = first.replace(/\[\]$/, '');
  if (!Object.hasOwn(example, name)) return Array.isArray(items) ? { items: excerpt(items, path) } : {};
  const inner = (example as Readonly<Record<string, unknown>>)[name];
  return { [name]: rest.length === 0 ? inner : excerpt(inner, rest.join('.')) };
};

const exampleOf = (
  shown: Shown,
  name: string,
  step: Step,
  path: string | null,
  audience: string | null,
): unknown => {
  const known = shown.examples[name];
  if (known === undefined) return undefined;
  const all = step.side === 'request' ? known.taken : known.sent;
  const example = all.get(audience) ?? [...all.values()][0];
  // Of what is around the body, only the body as a whole says something.
  const isWhole = step.code === 'body-changed' || step.code === 'page-changed';
  if (step.side === 'endpoint' && !isWhole) return undefined;
  return example === undefined ? undefined : excerpt(example, isWhole ? null : path);
};

const fence = (title: string, example: unknown): readonly string[] =>
  example === undefined ? [] : [`${title}:`, '', '```json', JSON.stringify(example, null, 2), '```', ''];

const placeLines = (step: Step, [before, after]: readonly [Shown, Shown]): readonly string[] =>
  step.reach.map(({ endpoint }) => {
    const [was, is] = [routeIn(before, endpoint), routeIn(after, endpoint)];
    return `- \`${endpoint}\`: ${was === '' || is === '' || was === is ? was || is : `${was}, now ${is}`}`;
  });

const titleOf = ({ side, was, is, code }: Step): string => {
  const where = { response: 'in answers', request: 'in what you send', endpoint: '' }[side];
  if (was !== null && is !== null && was !== is) return `\`${was}\` → \`${is}\` ${where}`;
  const name = is ?? was ?? '';
  if (code === 'body-changed') return 'the body of answers';
  return name === '' ? code.replaceAll('-', ' ') : `\`${name}\` ${where}`.trim();
};

const section = (
  step: Step,
  both: readonly [Shown, Shown],
  audiences: readonly string[],
): readonly string[] => {
  const [before, after] = both;
  const [first] = step.reach;
  const [audience = null] = first?.audiences ?? [];
  const name = first?.endpoint ?? '';
  const whom = [...new Set(step.reach.flatMap((one) => one.audiences))];
  const advice = adviceOn(step);
  return [
    `### ${titleOf(step)}`,
    '',
    advice === '' ? step.message : `${step.message} **${advice}**`,
    '',
    `For ${audienceWords(whom, audiences)}, at:`,
    '',
    ...placeLines(step, both),
    '',
    ...(step.was === null ? [] : fence('Before', exampleOf(before, name, step, step.was, audience))),
    ...(step.is === null ? [] : fence('Now', exampleOf(after, name, step, step.is, audience))),
  ];
};

/** How the editions are asked for, and until when the old one is. */
const opening = (config: GriboConfig, [was, is]: readonly [Shown, Shown]): readonly string[] => {
  const [before, after] = [was.config.api.plan.edition, is.config.api.plan.edition];
  const name = (edition: typeof before): string => edition?.name ?? '';
  const place = editionPlace(config.editions);
  const how = {
    path: `begin paths with \`/${name(after)}\` instead of \`/${name(before)}\``,
    header: `send the header \`${place.name}: ${name(after)}\``,
    mediaType: `accept and send \`application/json;${place.name}=${name(after)}\``,
  }[place.by];
  const sunset = before?.deprecated?.sunset ?? null;
  return [
    `# ${config.api.plan.title}: from ${name(before)} to ${name(after)}`,
    '',
    `To ask in ${name(after)}, ${how}. Whoever uses a generated client takes the one of ${name(after)}.`,
    sunset === null
      ? `Whoever stays in ${name(before)} is answered as before.`
      : `Whoever stays in ${name(before)} is answered as before until the end of ${sunset}, and with 410 after that.`,
    '',
  ];
};

const GROUPS: readonly (readonly [Step['effect'], string, string])[] = [
  ['breaking', 'What has to be changed', 'A client that does not do this fails.'],
  ['risky', 'What to look at', 'A client that relies on what was so by chance fails.'],
  ['safe', 'What is new', 'Nothing has to be done about it.'],
];

/**
 * What a client has to change from one edition to another, as Markdown: member by member, with examples of both.
 *
 * @param editions the names of the one and the other
 */
export const notes = (
  config: GriboConfig,
  editions: readonly [string, string],
  differences: readonly Difference[],
): string => {
  const samples = samplesOf(config);
  const rows = samples === null || config.model === undefined ? null : memoryStore(config.model, samples);
  const shownIn = (edition: string): Shown => {
    const one = inAskedEdition(config, { edition });
    return { config: one, examples: rows === null ? {} : examplesOf(one.api.plan, rows) };
  };
  const both = [shownIn(editions[0]), shownIn(editions[1])] as const;
  const steps = editionSteps(differences, {
    before: lineage(both[0].config.api),
    after: lineage(both[1].config.api),
  });
  const { audiences } = contractOf(both[1].config.api);
  const groups = GROUPS.flatMap(([effect, title, sentence]) => {
    const own = steps.filter((step) => step.effect === effect);
    if (own.length === 0) return [];
    return [`## ${title}`, '', sentence, '', ...own.flatMap((step) => section(step, both, audiences))];
  });
  const nothing = steps.length === 0 ? ['Nothing differs.', ''] : [];
  return [...opening(config, both), ...nothing, ...groups].join('\n').trimEnd();
};
