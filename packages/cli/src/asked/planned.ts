import type { loadPlan } from 'gribo';
import type { BodyPlan } from 'gribo/kit';

/** A body as the library's functions take it, from its plan alone. */
export type PlannedBody = Parameters<typeof loadPlan>[0];

/** The body of a plan: the types of its rows and of what it sends are not known here. */
export const planned = (plan: BodyPlan): PlannedBody => ({ plan }) as PlannedBody;
