import type { ApiPlan, EndpointPlan } from 'gribo/kit';
import type { Format } from '../formats/format.js';
import { type Choice, negotiate, type Wish, writableFormats } from '../request/negotiate.js';
import { sendsList } from '../response/send.js';
import type { Settings } from '../settings/settings.js';

/** What is kept of an endpoint's negotiations: as many as there are kinds of callers, hardly ever more. */
const KEPT = 32;

/** An endpoint with what every request to it needs. */
export class Prepared {
  /** The endpoint that reads one row of the same collection. */
  readonly sibling: EndpointPlan | null;
  readonly isPaged: boolean;
  readonly formats: readonly Format[];
  readonly #settings: Settings;
  readonly #choices = new Map<string, Choice>();

  constructor(endpoint: EndpointPlan, api: ApiPlan, settings: Settings) {
    const start = endpoint.name.slice(0, endpoint.name.lastIndexOf('.') + 1);
    const reading = api.endpoints.find(
      ({ name, operation }) => name === `${start}read` && operation === 'read',
    );
    this.sibling = endpoint.operation === null ? null : (reading ?? null);
    this.isPaged = endpoint.returns?.kind === 'envelope' && endpoint.returns.page !== null;
    this.formats = writableFormats(settings.formats, sendsList(endpoint));
    this.#settings = settings;
  }

  /** @throws {Problem} 406 */
  choose(wish: Wish): Choice {
    const key = `${wish.accept} ${wish.format} ${wish.sent?.name}`;
    const known = this.#choices.get(key);
    if (known !== undefined) return known;
    const choice = negotiate(wish, this.formats, this.#settings);
    if (this.#choices.size >= KEPT) this.#choices.clear();
    this.#choices.set(key, choice);
    return choice;
  }
}
