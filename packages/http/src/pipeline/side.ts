import { type ApiPlan, dayOf, isOver } from 'gribo/kit';
import { Routes } from '../request/routes.js';
import type { Settings } from '../settings/settings.js';
import { Pipeline, type PipelineRules } from './pipeline.js';

/** An API in one edition, with what its requests go through. */
export class Side {
  readonly plan: ApiPlan;
  readonly routes: Routes;
  readonly pipeline: Pipeline;

  constructor(plan: ApiPlan, settings: Settings, rules: PipelineRules) {
    this.plan = plan;
    this.routes = new Routes(plan.endpoints);
    this.pipeline = new Pipeline(plan, settings, rules);
    // What is wrong with an endpoint is told when it is served, not when it is asked.
    for (const endpoint of plan.endpoints) this.pipeline.prepared(endpoint);
  }

  get name(): string {
    return this.plan.edition?.name ?? '';
  }

  /** Whether the last day of its edition is over. */
  hasEnded(now: Date): boolean {
    return isOver(this.plan.edition?.deprecated, dayOf(now));
  }
}
