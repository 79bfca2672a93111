import { DeclarationError } from 'gribo';
import type { ApiPlan, EndpointPlan } from 'gribo/kit';
import { type EditionNamed, editionNamed } from '../editions/edition-named.js';
import { decidedByEdition, withEdition } from '../editions/edition-told.js';
import type { EditionsSettings } from '../editions/editions-options.js';
import type { Answer } from '../message/answer.js';
import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';
import { filledPath, type Place } from '../request/routes.js';
import type { Settings } from '../settings/settings.js';
import type { PipelineRules } from './pipeline.js';
import { Side } from './side.js';

/** Where a request goes: to which edition, and what all paths of that start with. */
export interface Addressed {
  readonly side: Side;
  readonly base: string;
  readonly path: string;
  readonly accept: string | null;
  /** The moment of the request: all that is done for it goes by that. */
  readonly now: Date;
  /** Whether it named the edition. */
  readonly isNamed: boolean;
  /** What is there; null: nothing. */
  readonly place: Place | null;
}

/** The endpoint that a request is for, with what its path says. */
export interface EndpointAsked {
  readonly endpoint: EndpointPlan;
  readonly parameters: Readonly<Record<string, string>>;
}

/** An API in all of its editions. */
export class Sides {
  /** Oldest first. */
  readonly all: readonly Side[];
  readonly newest: Side;
  readonly #names: ReadonlySet<string>;
  readonly #settings: EditionsSettings;
  readonly #base: string;

  constructor(
    plan: ApiPlan,
    settings: Settings,
    rules: PipelineRules,
    editions: EditionsSettings,
    base: string,
  ) {
    this.newest = new Side(plan, settings, rules);
    this.all = [...plan.earlier.map((one) => new Side(one, settings, rules)), this.newest];
    this.#names = new Set(this.all.map(({ name }) => name));
    this.#settings = editions;
    this.#base = base;
    this.#checkUnnamed();
    if (editions.by === 'path') this.#checkPaths();
  }

  /** Who names none has to be answered in an edition that there is. */
  #checkUnnamed(): void {
    const { unnamed } = this.#settings;
    const names = [...this.#names, 'oldest', 'newest', 'refuse'];
    if (!this.#hasEditions || names.includes(unnamed)) return;
    const message = `there is no edition ${JSON.stringify(unnamed)}. There are: ${names.join(', ')}`;
    DeclarationError.throwIfAny('serve', [{ path: 'unnamed', message }]);
  }

  /** What begins a path of those who name no edition must not be the name of one. */
  #checkPaths(): void {
    const endpoints = this.all.flatMap(({ plan }) => plan.endpoints);
    const taken = endpoints.filter(({ path }) => this.#names.has(path.split('/')[1] ?? ''));
    DeclarationError.throwIfAny(
      'serve',
      taken.map(({ name, path }) => ({
        path: name,
        message: `its path ${path} begins with the name of an edition: let editions be named in a header`,
      })),
    );
  }

  get #hasEditions(): boolean {
    return this.newest.plan.edition !== null;
  }

  /**
   * Where a request goes.
   *
   * @param path its path, without what all paths start with
   * @throws {Problem} 400 or 406 where it names an edition that there is not
   */
  addressed(asked: Asked, path: string, now: Date): Addressed {
    const base = this.#base;
    if (!this.#hasEditions) {
      const place = this.newest.routes.find(path);
      return { side: this.newest, base, path, accept: asked.header('accept'), now, isNamed: false, place };
    }
    const named = editionNamed(asked, path, this.#names, this.#settings);
    const side = this.#sideOf(named, now);
    const isNamed = named.name !== null;
    const isInPath = isNamed && this.#settings.by === 'path';
    const { path: rest, accept } = named;
    return {
      side,
      base: isInPath ? `${base}/${side.name}` : base,
      path: rest,
      accept,
      now,
      isNamed,
      place: side.routes.find(rest),
    };
  }

  /**
   * What is at the path of a request.
   *
   * @throws {Problem} 410 where its edition has ended, 404 where nothing is there, or 400 where an edition has to be named
   */
  open({ side, path, now, isNamed, place }: Addressed): Place {
    // Who names an edition that has ended is told so wherever it looks: what was there once is not known any more.
    if (isNamed) this.#checkEnd(side, now);
    if (place === null) throw new Problem(404, { detail: this.#nothingAt(path, isNamed, now) });
    // Only paths are found before it is known that there is something at them.
    if (!isNamed && this.#hasEditions && this.#settings.unnamed === 'refuse')
      throw new Problem(400, {
        detail: `Name an edition${this.#how(path)}. There are: ${this.#there(now)}.`,
      });
    this.#checkEnd(side, now);
    return place;
  }

  #checkEnd(side: Side, now: Date): void {
    if (!side.hasEnded(now)) return;
    const there = this.#there(now);
    const detail = `The edition ${JSON.stringify(side.name)} has ended.`;
    throw new Problem(410, { detail: there === '' ? detail : `${detail} There are: ${there}.` });
  }

  /**
   * The answer, with what it tells of its edition.
   *
   * @param addressed null: the request goes nowhere
   */
  told(answer: Answer, addressed: Addressed | null, asked: EndpointAsked | null): Answer {
    if (!this.#hasEditions) return answer;
    const { edition = null } = addressed?.side.plan ?? {};
    if (addressed === null || edition === null) return decidedByEdition(answer, this.#settings);
    const isLast = addressed.side === this.newest;
    // Of the newest there is nothing to tell, but where a header or a media type named it.
    if (isLast && edition.deprecated === null && this.#settings.by === 'path') return answer;
    const here = this.all.indexOf(addressed.side);
    const later = this.all.slice(here + 1).filter((side) => !side.hasEnded(addressed.now));
    const at = (side: Side | undefined): string | null =>
      side === undefined || asked === null ? null : this.#placeIn(side, addressed, asked);
    return withEdition(answer, {
      edition,
      settings: this.#settings,
      notice: asked?.endpoint.deprecated ?? null,
      successor: at(later[0]),
      latest: at(later.at(-1)),
    });
  }

  /** Where the same endpoint is in another edition; null where it is in none, or at the very same place. */
  #placeIn(
    side: Side,
    { base, path }: Addressed,
    { endpoint: here, parameters }: EndpointAsked,
  ): string | null {
    const endpoint = side.plan.endpoints.find(({ name }) => name === here.name);
    if (endpoint === undefined || endpoint.parameters.some((name) => parameters[name] === undefined))
      return null;
    const start = this.#settings.by === 'path' ? `${this.#base}/${side.name}` : this.#base;
    const place = start + filledPath(endpoint.path, parameters);
    return place === base + path ? null : place;
  }

  #sideOf({ name }: EditionNamed, now: Date): Side {
    if (name === null) return this.#unnamed(now);
    const side = this.#sideNamed(name);
    if (side === undefined) throw this.#unknown(name, now);
    return side;
  }

  #sideNamed(name: string): Side | undefined {
    return this.all.find((side) => side.name === name);
  }

  /** The edition of those who name none. */
  #unnamed(now: Date): Side {
    const { unnamed } = this.#settings;
    if (unnamed === 'oldest') return this.all.find((side) => !side.hasEnded(now)) ?? this.newest;
    return this.#sideNamed(unnamed) ?? this.newest;
  }

  #unknown(name: string, now: Date): Problem {
    const detail = `There is no edition ${JSON.stringify(name.slice(0, 64))}. There are: ${this.#there(now)}.`;
    return new Problem(this.#settings.by === 'mediaType' ? 406 : 400, { detail });
  }

  #there(now: Date): string {
    return this.all
      .filter((side) => !side.hasEnded(now))
      .map(({ name }) => name)
      .join(', ');
  }

  #how(path: string): string {
    const { by, name } = this.#settings;
    if (by === 'header') return ` in the header ${name}`;
    if (by === 'mediaType')
      return ` with the media type, such as application/json;${name}=${this.newest.name}`;
    return ` as the first part of the path: ${this.#base}/${this.newest.name}${path}`;
  }

  #nothingAt(path: string, isNamed: boolean, now: Date): string {
    const detail = 'There is nothing at this path.';
    if (!this.#hasEditions || this.#settings.by !== 'path' || isNamed) return detail;
    const rest = path.slice(path.indexOf('/', 1));
    const isElsewhere = path.indexOf('/', 1) !== -1 && this.newest.routes.find(rest) !== null;
    return isElsewhere ? `There is no such edition. There are: ${this.#there(now)}.` : detail;
  }
}
