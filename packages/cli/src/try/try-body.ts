import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { inspect } from 'node:util';
import { type Format, type Received, receive, standardFormats } from '@gribo/http';
import { type CallerGiven, type Issue, type ReadResult, reader } from 'gribo';
import { type ChangePlan, type EndpointPlan, type LinkedEntities, planChange, sampleFacts } from 'gribo/kit';
import { parse } from 'json-source-map';
import type { EditionOptions } from '../asked/asked-edition.js';
import { type Asking, askingAs, type CallerOptions } from '../asked/caller.js';
import { pickEndpoint } from '../asked/pick-endpoint.js';
import { audienceFor } from '../asked/situation.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import { cutTo, type Screen } from '../screen/screen.js';
import { stepLines } from './step-lines.js';
import { type StepTold, stepTold } from './step-told.js';

/** What `gribo try --json` prints: what was read of the body, or what is wrong with it. */
export type TryJson = BodyRead | BodyRefused;

/** A body that was read. */
export interface BodyRead {
  readonly ok: true;
  /** As a handler is given it: columns by name. */
  readonly value: object;
  /** What would be stored, in order; left out where a handler decides what becomes of it. */
  readonly steps?: readonly StepTold[];
}

/** A body that was refused. */
export interface BodyRefused {
  readonly ok: false;
  readonly issues: readonly Issue[];
}

export interface TryOptions extends CallerOptions, EditionOptions {
  readonly body?: string;
  readonly json?: boolean;
}

const inputOf = async ({ input }: Screen): Promise<Buffer<ArrayBuffer>> => {
  const chunks: Uint8Array[] = [];
  for await (const chunk of input) chunks.push(chunk);
  return Buffer.concat(chunks);
};

const bodyFrom = async (file: string | undefined, screen: Screen): Promise<Buffer<ArrayBuffer>> => {
  if (file === undefined) return inputOf(screen);
  try {
    return await readFile(file);
  } catch {
    throw new Mistake(`There is no file ${file}.`);
  }
};

/** The line of each place in a JSON text, from 0; none where the text is no JSON. */
const linesOf = (text: string): ReadonlyMap<string, number> => {
  try {
    const { pointers } = parse(text);
    return new Map(
      Object.entries(pointers).map(([pointer, place]) => [pointer, (place.key ?? place.value).line]),
    );
  } catch {
    return new Map();
  }
};

/** The line that an issue is about: of its own place, or of the nearest one around it. */
const lineOf = (lines: ReadonlyMap<string, number>, { pointer, reason, line }: Issue): number => {
  if (line !== undefined) return line - 1;
  for (let at = pointer; ; at = at.slice(0, at.lastIndexOf('/'))) {
    const line = lines.get(at);
    if (line !== undefined) return line;
    if (at === '') break;
  }
  // Of what is no JSON, no place has a line but the one where it ends to be some.
  return (reason?.line ?? 1) - 1;
};

/** The most lines around the issues that are shown: of a body on one line or of thousands, only the places. */
const AROUND = 2;

const showIssues = (screen: Screen, text: string, issues: readonly Issue[]): void => {
  const { colours, width } = screen;
  const places = linesOf(text);
  const byLine = new Map<number, Issue[]>();
  for (const issue of issues) {
    const line = lineOf(places, issue);
    byLine.set(line, [...(byLine.get(line) ?? []), issue]);
  }
  const near = (line: number): boolean => [...byLine.keys()].some((at) => Math.abs(at - line) <= AROUND);
  let skipped = false;
  text
    .trimEnd()
    .split('\n')
    .forEach((content, line) => {
      if (!near(line)) {
        if (!skipped) screen.print(colours.dim('     ⋮'));
        skipped = true;
        return;
      }
      skipped = false;
      const found = byLine.get(line);
      const number = String(line + 1).padStart(4);
      const shown = cutTo(content.replaceAll(/\p{Cc}/gu, ' '), width - 6);
      screen.print(`${colours.dim(number)}  ${found === undefined ? shown : colours.bold(shown)}`);
      for (const { pointer, code, message } of found ?? []) {
        screen.print(
          colours.red(`      └ ${pointer === '' ? '(the whole body)' : pointer}  ${code}: ${message}`),
        );
      }
    });
};

/** A change, or many where a list is taken. */
type Read = object | readonly object[];

const isMany = (read: Read): read is readonly object[] => Array.isArray(read);

/** The media type of a file, by its ending: a format's name, or the end of one of its media types. Else JSON. */
const typeOf = (file: string | undefined, formats: readonly Format[]): string => {
  const ending = extname(file ?? '').slice(1);
  const format = formats.find(
    ({ name, mediaTypes }) =>
      ending !== '' && (name === ending || mediaTypes.some((type) => type.endsWith(`/${ending}`))),
  );
  return format?.mediaTypes[0] ?? 'application/json';
};

/** Endpoints are named by text here: what the compiler knows of an API's own names is not asked for. */
const receiveAny = receive as unknown as (
  api: GriboConfig['api'],
  name: string,
  request: Request,
  options: { readonly caller: CallerGiven; readonly formats: readonly Format[] },
) => Promise<Received<readonly object[]>>;

/** Reads a list as it would be read over HTTP, by what its file is called. */
const readList = async (
  { api, formats = standardFormats }: GriboConfig,
  { name }: EndpointPlan,
  audience: string | null,
  body: Buffer<ArrayBuffer>,
  file: string | undefined,
): Promise<ReadResult<readonly object[]>> => {
  const headers = { 'content-type': typeOf(file, formats) };
  const request = new Request('http://127.0.0.1/', { method: 'POST', headers, body });
  const got = await receiveAny(api, name, request, { caller: { audience }, formats });
  if (got.ok) return { ok: true, value: got.value };
  const { errors, detail } = (await got.response.json()) as {
    readonly errors?: readonly Issue[];
    readonly detail: string;
  };
  // A body of no format that is read has no place that is wrong.
  return { ok: false, issues: errors ?? [{ pointer: '', code: 'syntax', message: detail }] };
};

/** What a store would do for a change: of one that is amended, the path says which row. */
const planOf = (
  config: GriboConfig,
  { takes, entity }: EndpointPlan,
  { caller, now }: Asking,
  change: Read,
): ChangePlan => {
  // Without a model, the entity alone is known: nested rows are not.
  const model: LinkedEntities = config.model ?? { [entity.name]: { entity, links: new Map() } };
  const operation = { entity: entity.name } as const;
  // Facts that nobody gave are made up: nothing is stored.
  const stamp = { caller: { ...sampleFacts(config.api.plan.caller), ...caller }, now };
  if (isMany(change))
    return planChange(model, { ...operation, operation: 'create', changes: change }, { stamp });
  return takes?.amends === true
    ? planChange(model, { ...operation, operation: 'amend', key: [], change }, { stamp })
    : planChange(model, { ...operation, operation: 'create', change }, { stamp });
};

/** Who sends the body; where nobody is named, the first whom the endpoint answers: what is in it is the question. */
const senderOf = (config: GriboConfig, endpoint: EndpointPlan, options: TryOptions): Asking => {
  const [first] = endpoint.audiences ?? [];
  const isNamed = options.as !== undefined || options.audience !== undefined;
  if (!isNamed) return askingAs(config, first === undefined ? {} : { audience: first });
  audienceFor(config, endpoint, options);
  return askingAs(config, options);
};

const doneTo = ({ takes, takesMany }: EndpointPlan): string => {
  if (takesMany) return 'stored as rows of';
  return takes?.amends === true ? 'changed of a' : 'stored as a';
};

const showSteps = (screen: Screen, endpoint: EndpointPlan, plan: ChangePlan): void => {
  const { colours, width } = screen;
  screen.print(colours.dim(`\nwhat would be ${doneTo(endpoint)} ${endpoint.entity.name}, in these steps:\n`));
  for (const line of stepLines(plan)) screen.print(cutTo(line, width));
};

/** Shows what a body would change, or what is wrong with it under its lines. */
export const tryBody = async (
  config: GriboConfig,
  name: string,
  options: TryOptions,
  screen: Screen,
): Promise<void> => {
  const endpoint = pickEndpoint(config, name);
  const { takes, method, path } = endpoint;
  if (endpoint.files.length > 0)
    throw new Mistake(`${name} takes files: send them to it while gribo serve is at work.`);
  if (takes === null) throw new Mistake(`${name} takes no body.`);
  const asking = senderOf(config, endpoint, options);
  const { audience } = asking.caller;
  const body = await bodyFrom(options.body, screen);
  const got: ReadResult<Read> = endpoint.takesMany
    ? await readList(config, endpoint, audience, body, options.body)
    : (reader({ plan: takes }, {}, { audience }).json(body) as ReadResult<Read>);
  const { colours } = screen;
  // What an endpoint of its own does with it, only its handler knows.
  const isCommand = endpoint.operation === null;
  if (options.json === true) {
    const steps =
      got.ok && !isCommand ? { steps: planOf(config, endpoint, asking, got.value).steps.map(stepTold) } : {};
    printJson<TryJson>(screen, { ...got, ...steps });
  } else {
    screen.print(`${colours.bold(name)}  ${method} ${path}  takes ${takes.name}\n`);
    if (got.ok) {
      screen.print(
        inspect(got.value, {
          depth: null,
          colors: colours.isColorSupported,
          compact: 3,
          breakLength: screen.width,
        }),
      );
      if (isCommand)
        screen.print(colours.dim('\nis what its handler is given: what it does with that is up to it.'));
      else showSteps(screen, endpoint, planOf(config, endpoint, asking, got.value));
    } else showIssues(screen, body.toString('utf8'), got.issues);
  }
  if (got.ok) return;
  const many = got.issues.length === 1 ? 'one issue' : `${got.issues.length} issues`;
  const undone = isCommand ? 'done' : takes.amends ? 'changed' : 'stored';
  throw new Mistake(`${many}: nothing would be ${undone}.`, 1);
};
