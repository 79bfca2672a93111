import { GriboError, type Situation } from 'gribo';
import {
  type ApiPlan,
  answers,
  type EndpointPlan,
  type InputPlan,
  settledInput,
  settledQuery,
} from 'gribo/kit';
import type { Answer } from '../message/answer.js';
import { type Asked, isReading } from '../message/asked.js';
import type { Page } from '../operations/outcome.js';
import { failedResponse, type Refused } from '../problems/failed-response.js';
import { Problem } from '../problems/problem.js';
import type { Caller } from '../request/caller.js';
import { checkSite, type SiteRules } from '../request/check-site.js';
import type { Choice } from '../request/negotiate.js';
import { type Query, readQuery } from '../request/query.js';
import { mirroredFormat, readBody } from '../request/read-body.js';
import { readFiles, type TakenFiles } from '../request/read-files.js';
import { readRows, type TakenRows } from '../request/read-rows.js';
import { situationOf } from '../request/situation-of.js';
import { splitUrl } from '../request/split-url.js';
import { pageLinks } from '../response/links.js';
import { cacheControl, type Streaming, send } from '../response/send.js';
import { sendFile } from '../response/send-file.js';
import type { Settings } from '../settings/settings.js';
import { Prepared } from './prepared.js';

/** What a pipeline needs to know besides how bodies are read and written. */
export interface PipelineRules extends SiteRules {
  /** The request's headers that its caller follows from; null where nothing is decided. */
  readonly decidedBy: readonly string[] | null;
  /** Query parameters that are not known: refused with 400, or passed over. */
  readonly unknownParameters: 'refuse' | 'ignore';
  /** Seconds that responses may be kept, by endpoint. */
  readonly cache: Readonly<Record<string, number | undefined>>;
}

/** A request that is let in to an endpoint: everything that is known before anything is done. */
export interface Admitted {
  readonly asked: Asked;
  readonly endpoint: EndpointPlan;
  readonly caller: Caller;
  readonly audience: string | null;
  readonly situation: Situation;
  readonly query: Query;
  /** The path of the request, and its query without the question mark. */
  readonly path: string;
  readonly search: string;
  /** The format to answer in; null where the endpoint sends no body. */
  readonly choice: Choice | null;
  /** The request's headers that its caller follows from; null where nothing is decided. */
  readonly decidedBy: readonly string[] | null;
}

/** What is known of a request besides, where it is. */
export interface KnownOf {
  /** What it accepts, without what that says of editions. */
  readonly accept?: string | null;
  /** The headers that its caller follows from. */
  readonly decidedBy?: readonly string[] | null;
}

/** What came in. */
export interface Taken {
  /** The input that it was read by; null where the endpoint takes nothing. */
  readonly takes: InputPlan | null;
  /** The change that the body asks for, or its rows. */
  readonly change: object | TakenRows | null;
  /** The files that came; null where the endpoint takes none. */
  readonly files: TakenFiles | null;
}

/** What is to be sent. */
export interface Sent {
  readonly data: unknown;
  readonly page: Page | null;
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  /** Is told the end of a list that is sent while it is made; left out: nobody is. */
  readonly streaming?: Streaming;
}

/** What every request goes through, whoever keeps the routes: who may, what is asked, which format, what is read and sent. */
export class Pipeline {
  readonly #plan: ApiPlan;
  readonly #settings: Settings;
  readonly #rules: PipelineRules;
  readonly #prepared = new Map<EndpointPlan, Prepared>();

  constructor(plan: ApiPlan, settings: Settings, rules: PipelineRules) {
    this.#plan = plan;
    this.#settings = settings;
    this.#rules = rules;
  }

  /** What every request to an endpoint needs. */
  prepared(endpoint: EndpointPlan): Prepared {
    let prepared = this.#prepared.get(endpoint);
    if (prepared === undefined) {
      prepared = new Prepared(endpoint, this.#plan, this.#settings);
      this.#prepared.set(endpoint, prepared);
    }
    return prepared;
  }

  /** @throws {Problem} 403 where a page of another site sent the request */
  checkSite(asked: Asked): void {
    checkSite(asked, this.#rules);
  }

  /** @throws {Problem} 403 where the endpoint does not answer this caller */
  checkAudience(endpoint: EndpointPlan, audience: string | null): void {
    if (audience !== null && !this.#plan.audiences.includes(audience)) {
      const message = `${JSON.stringify(audience)} is no audience that the API declares`;
      throw new GriboError('MISUSE', 'audience', message);
    }
    if (!answers(endpoint, audience)) throw new Problem(403, { detail: 'This is not for you.' });
  }

  /**
   * Lets a request in. What cannot be answered is not done either: that is found out here.
   *
   * @throws {Problem} 400, 403, 406
   */
  async admit(
    asked: Asked,
    endpoint: EndpointPlan,
    caller: Caller,
    { accept = asked.header('accept'), decidedBy = this.#rules.decidedBy }: KnownOf = {},
  ): Promise<Admitted> {
    const { audience } = caller;
    this.checkAudience(endpoint, audience);
    const prepared = this.prepared(endpoint);
    const { formatParameter, formats } = this.#settings;
    const { path, search } = splitUrl(asked.url);
    const query = readQuery(search, {
      endpoint,
      settled: settledQuery(endpoint, audience),
      isPaged: prepared.isPaged,
      formatParameter,
      unknown: this.#rules.unknownParameters,
      policies: { ...this.#settings.policies, say: this.#settings.say },
    });
    const choice =
      endpoint.returns === null || endpoint.sends === 'file'
        ? null
        : prepared.choose({
            // Empty, it says as much as none (RFC 9110, section 12.5.1).
            accept: accept || null,
            format: query.format,
            sent: asked.hasBody ? mirroredFormat(asked, formats) : null,
          });
    // What a format cannot be written with is found out before anything is done, too.
    await choice?.format.load?.();
    const situation = situationOf(endpoint, audience, query);
    return { asked, endpoint, caller, audience, situation, query, path, search, choice, decidedBy };
  }

  /** Reads a request's body by the endpoint's input, as it is for an audience. @throws {Problem} */
  async read(asked: Asked, endpoint: EndpointPlan, audience: string | null): Promise<Taken> {
    const { takesMany } = endpoint;
    const takes = endpoint.takes && settledInput(endpoint.takes, audience);
    if (endpoint.files.length > 0)
      return { takes, ...(await readFiles(asked, endpoint, takes, this.#settings)) };
    if (takes === null) return { takes, change: null, files: null };
    const change = await (takesMany ? readRows : readBody)(asked, takes, this.#settings);
    return { takes, change, files: null };
  }

  async send(admitted: Admitted, { data, page, status, headers, streaming }: Sent): Promise<Answer> {
    const { asked, endpoint, caller, situation, path, search, choice, decidedBy } = admitted;
    if (endpoint.sends === 'file') return this.#sendFile(admitted, data, headers);
    if (choice === null) {
      const made = { 'cache-control': 'no-store', ...headers };
      return { status: status === 200 ? 204 : status, headers: made, content: null };
    }
    const links = page === null ? [] : linksOf(page, path, search);
    const cache = this.#rules.cache[endpoint.name] ?? null;
    const settings = this.#settings;
    return send({
      asked,
      endpoint,
      situation,
      given: caller.given,
      settings,
      choice,
      status,
      data,
      links,
      headers,
      cache,
      decidedBy,
      streaming: streaming ?? null,
    });
  }

  #sendFile(
    { asked, endpoint, caller, situation, decidedBy }: Admitted,
    data: unknown,
    headers: Readonly<Record<string, string>>,
  ): Answer {
    const seconds = this.#rules.cache[endpoint.name] ?? null;
    return sendFile({
      asked,
      endpoint,
      situation,
      given: caller.given,
      settings: this.#settings,
      data,
      headers,
      cacheControl: isReading(asked) ? cacheControl({ endpoint, decidedBy, cache: seconds }) : 'no-store',
      decidedBy: decidedBy ?? [],
    });
  }

  /** The response for whatever was thrown. */
  failed(asked: Refused, endpoint: EndpointPlan | null, error: unknown): Answer {
    return failedResponse(asked, endpoint, this.#settings, error);
  }
}

const linksOf = ({ wanted, data, hasMore }: Page, path: string, query: string): readonly string[] =>
  pageLinks({ path, query, wanted, pages: data.pages ?? null, next: data.next ?? null, hasMore });
