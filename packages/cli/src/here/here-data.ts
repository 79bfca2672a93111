import { existsSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { handlersWanted } from '@gribo/http';
import { type ReviewFinding, review } from 'gribo';
import { editionsOf } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { reviewOptions } from '../review/review-options.js';

/** What to do next, a command as a rule, and what for. */
export interface NextStep {
  readonly what: string;
  readonly why: string;
}

/** What a project has. */
export interface HereData {
  readonly title: string;
  readonly version: string;
  readonly config: string;
  readonly endpoints: number;
  /** The endpoints that do nothing without a handler and have none. */
  readonly withoutHandler: readonly string[];
  readonly audiences: readonly string[];
  /** Oldest first, each with its last day where it has one; none where the API has no editions. */
  readonly editions: readonly { readonly name: string; readonly sunset: string | null }[];
  /** Null where the configuration names no model. */
  readonly entities: number | null;
  /** Findings that nobody has accepted. */
  readonly findings: readonly Pick<ReviewFinding, 'code' | 'severity' | 'place'>[];
  /** Where `gribo build` writes, and whether it has. */
  readonly build: { readonly folder: string; readonly isThere: boolean };
  readonly next: readonly NextStep[];
}

/** What `gribo --json` prints: what the project here has; where there is none, how one begins. */
export type HereJson = HereData | NoProject;

/** That there is no project here or above. */
export interface NoProject {
  readonly config: null;
  readonly next: readonly NextStep[];
}

type Known = Omit<HereData, 'next'>;

/** What is worth doing first comes first. */
const nextSteps = (
  config: GriboConfig,
  { withoutHandler, findings, entities, build }: Known,
): readonly NextStep[] => {
  const [first] = config.api.plan.endpoints.filter(({ returns }) => returns !== null);
  const steps: NextStep[] = [];
  if (first !== undefined)
    steps.push({
      what: `gribo show ${first.name} --beside`,
      why: 'what an endpoint sends, beside the stored rows',
    });
  if (entities === null)
    steps.push({ what: 'export model from the configuration', why: 'for sample rows, drafts and checks' });
  else
    steps.push({
      what: 'gribo serve --samples',
      why: 'the API and its board on this machine, on made-up rows',
    });
  if (withoutHandler.length > 0)
    steps.push({
      what: 'export handlers from the configuration',
      why: `for ${withoutHandler.join(', ')}`,
    });
  steps.push({ what: 'gribo table', why: 'who sees what where' });
  steps.push({
    what: 'gribo check',
    why: findings.length === 0 ? 'what is risky or undecided: nothing by now' : 'what is risky or undecided',
  });
  steps.push({
    what: build.isThere ? 'gribo build --check' : 'gribo build',
    why: build.isThere
      ? `whether ${build.folder} is as the declaration is`
      : 'document, schemas, types and a client, as files',
  });
  return steps;
};

/** What a project has, and what to do next: the store is not opened for it. */
export const hereData = (config: GriboConfig, path: string): HereData => {
  const { plan } = config.api;
  const handled = new Set(Object.keys(config.handlers ?? {}));
  const folder = config.out ?? 'generated';
  const known: Known = {
    title: plan.title,
    version: plan.version,
    config: relative(process.cwd(), path),
    endpoints: plan.endpoints.length,
    withoutHandler: handlersWanted(plan)
      .map(({ name }) => name)
      .filter((name) => !handled.has(name)),
    audiences: plan.audiences,
    editions: editionsOf(plan).flatMap(({ edition }) =>
      edition === null ? [] : [{ name: edition.name, sunset: edition.deprecated?.sunset ?? null }],
    ),
    entities: config.model === undefined ? null : Object.keys(config.model).length,
    findings: review(config.api, reviewOptions(config)).findings.map(({ code, severity, place }) => ({
      code,
      severity,
      place,
    })),
    build: { folder, isThere: existsSync(join(dirname(path), folder)) },
  };
  return { ...known, next: nextSteps(config, known) };
};
